"""Times of rides: with any offset, within the years in which such a ride can have been."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import AfterValidator
from pydantic_core import PydanticCustomError

#: Two years inside what a clock, a database and a calendar can hold in every zone.
FIRST_YEAR, LAST_YEAR = 1970, 2199


def _within(moment: datetime) -> datetime:
    if not FIRST_YEAR <= moment.year <= LAST_YEAR:
        raise PydanticCustomError(
            "year",
            "is in the year {year}, expected {first} to {last}",
            {"year": moment.year, "first": FIRST_YEAR, "last": LAST_YEAR},
        )
    return moment


RideTime = Annotated[datetime, AfterValidator(_within)]

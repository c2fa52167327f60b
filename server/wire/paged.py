"""A list is asked for by the page."""

from __future__ import annotations

from typing import Annotated, Any

from django.db.models import QuerySet
from pydantic import Field

from server.wire.owned import Row
from server.wire.schema import Sent

#: Rows of one page: as many as a kit holds of one kind.
MOST_ROWS = 1000
#: Rows that may be passed over.
MOST_SKIPPED = 1_000_000


class Page(Sent):
    """Which rows of a list: so many, after so many others."""

    skip: Annotated[int, Field(ge=0, le=MOST_SKIPPED)] = 0
    most: Annotated[int, Field(ge=1, le=MOST_ROWS)] = MOST_ROWS

    def of(self, rows: QuerySet[Row]) -> list[Row]:
        """The page's rows, in the order of the query; rows that tie stand by their ids."""
        given: Any = rows.query.order_by or rows.model._meta.ordering
        ordered = rows.order_by(*given, "pk")
        return list(ordered[self.skip : self.skip + self.most])

"""A piece of an account's zip, held against the form in which it would be typed."""

from __future__ import annotations

from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from limpet.errors import BundleError, Fault
from limpet.files.document import explain

Form = TypeVar("Form", bound=BaseModel)


def checked(form: type[Form], value: Any, file: str, where: str) -> Form:
    """The value as its form takes it.

    Parameters
    ----------
    file, where : in which it stands, and what of it

    Raises
    ------
    BundleError
        With the first thing that the form does not take.
    """
    try:
        return form.model_validate(value)
    except ValidationError as cause:
        first = cause.errors(include_url=False)[0]
        place = ".".join(str(part) for part in first["loc"])
        text = f"{where}: {place} {explain(first)}" if place else f"{where}: {explain(first)}"
        raise BundleError([Fault(file, 0, 0, text)]) from cause

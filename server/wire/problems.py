"""One shape for every failure: {code, message, fields, faults}, and what the services refuse with."""

from __future__ import annotations

from django.http import HttpResponse, JsonResponse
from ninja import Schema
from pydantic import Field

from limpet.errors import LimpetError


class FaultOut(Schema):
    """One fault of a file."""

    file: str
    line: int
    column: int
    message: str


class Problem(Schema):
    """What went wrong: a code for programs, a sentence for people, and where."""

    code: str
    message: str
    fields: dict[str, str] = Field(default_factory=dict)
    faults: list[FaultOut] = Field(default_factory=list)


class FieldError(LimpetError):
    """Fields of a form that cannot be stored; nothing was changed."""

    def __init__(self, fields: dict[str, str]) -> None:
        self.fields = fields
        super().__init__("; ".join(f"{name} {text}" for name, text in fields.items()))


class ConflictError(LimpetError):
    """An id is stored with other values, or the state does not allow the change."""


class GoneError(LimpetError):
    """What was held for a while is not held any more, or was somebody else's."""


class FullError(LimpetError):
    """An account keeps as much as it may; nothing was stored."""


class NoRoomError(LimpetError):
    """The disk of this Limpet is full, or nearly; nothing was stored."""

    def __init__(self) -> None:
        super().__init__(
            "This Limpet’s disk is full, so nothing was stored. Whoever runs it has to make room. What is on "
            "your phone stays there and is sent again."
        )


class CancelledError(ConflictError):
    """Whoever asked for it does not want it any more; nothing was stored."""

    def __init__(self) -> None:
        super().__init__("Cancelled. Nothing was stored.")


class KeptBesideError(ConflictError):
    """What was sent came too late to be taken, and was kept beside what stands: that is stored."""


class UnreadableError(LimpetError):
    """What was stored cannot be read by this version; nothing is lost."""


class TooLargeError(LimpetError):
    """More was sent than is taken; nothing of it was read further."""


def problem_response(status: int, code: str, message: str) -> HttpResponse:
    """A failure in the one shape, from outside the API's own views."""
    return JsonResponse(Problem(code=code, message=message).model_dump(), status=status)


def unavailable() -> HttpResponse:
    """What is said while the database does not answer."""
    message = (
        "Limpet’s database isn’t answering just now, so nothing was stored. Try again in a moment."
    )
    response = problem_response(503, "unavailable", message)
    response["Retry-After"] = "5"
    return response

"""Every failure of an address as a status and a problem: one table, one function each."""

from __future__ import annotations

import json
import logging
from collections.abc import Callable
from typing import Any, Final, cast

from django.core.exceptions import ObjectDoesNotExist, PermissionDenied, SuspiciousOperation
from django.db import connection
from django.db.utils import DatabaseError, IntegrityError, InterfaceError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse
from django.http.multipartparser import MultiPartParserError
from django.http.request import RawPostDataException, UnreadablePostError
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, Throttled, ValidationError
from pydantic_core import ErrorDetails

from limpet.errors import BundleError, OutOfRangeError
from limpet.files.document import explain
from server.wire.naming import label_of
from server.wire.problems import (
    ConflictError,
    FaultOut,
    FieldError,
    FullError,
    GoneError,
    KeptBesideError,
    NoRoomError,
    Problem,
    TooLargeError,
    UnreadableError,
    unavailable,
)
from server.wire.reading import BodyError
from server.wire.room import is_full
from server.wire.turns import BusyError
from server.wire.typed import SAID_WHOLE
from server.wire.whole import KEEPS

logger = logging.getLogger(__name__)

#: A failure of a request as its status and what is said of it.
Told = Callable[[HttpRequest, Any], tuple[int, Problem]]
#: Codes of statuses that the framework refuses with itself.
_CODES: Final = {
    400: "bad_request",
    403: "denied",
    404: "not_found",
    413: "too_large",
    429: "too_many",
}


def _says(status: int, code: str, message: str = "") -> Told:
    """A failure that says its own text, or always the same."""
    return lambda request, error: (status, Problem(code=code, message=message or str(error)))


def _invalid(request: HttpRequest, error: ValidationError) -> tuple[int, Problem]:
    fields: dict[str, str] = {}
    for item in cast(list[ErrorDetails], error.errors):
        name = ".".join(str(part) for part in item["loc"] if part not in ("body", "payload"))
        fields.setdefault(name or "body", _sentence(_with_input(item, request)))
    listed = "; ".join(f"{label_of(name, request.path)} {text}" for name, text in fields.items())
    return 422, Problem(code="invalid", message=listed, fields=fields)


def _field(request: HttpRequest, error: FieldError) -> tuple[int, Problem]:
    return 422, Problem(code="invalid", message=str(error), fields=error.fields)


def _bundle(request: HttpRequest, error: BundleError) -> tuple[int, Problem]:
    count = len(error.faults)
    faults = "1 fault" if count == 1 else f"{count} faults"
    named = [
        FaultOut(file=f.file, line=f.line, column=f.column, message=f.message) for f in error.faults
    ]
    message = f"This can’t be taken in: {faults}. Nothing was stored."
    return 422, Problem(code="bundle_refused", message=message, faults=named)


def _http(request: HttpRequest, error: HttpError) -> tuple[int, Problem]:
    cause, status = error.__cause__, error.status_code
    message = str(cause) if isinstance(cause, BodyError) else error.message
    return status, Problem(code=_CODES.get(status, "error"), message=message)


def _clash(request: HttpRequest, error: IntegrityError) -> tuple[int, Problem]:
    # The services decide the clashes that they foresee; this is one between two clients.
    logger.warning("clash at %s: %s", request.path, error)
    message = "Something else changed this at the same moment, so nothing was stored. Load the page again."
    return 409, Problem(code="conflict", message=message)


def _unexpected(request: HttpRequest, error: Exception) -> tuple[int, Problem]:
    logger.exception("unexpected failure at %s", request.path)
    # `whole` rolls a change back when it is answered with a failure; only then is this true.
    kept = " Nothing was stored." if _is_rolled_back() else ""
    message = f"Something went wrong in Limpet.{kept} The server’s log says where."
    return 500, Problem(code="failed", message=message)


def _kept_beside(request: HttpRequest, error: KeptBesideError) -> tuple[int, Problem]:
    setattr(request, KEEPS, True)
    return 409, Problem(code="changed_meanwhile", message=str(error))


_UNREADABLE = _says(400, "bad_request", "The body is not a form that can be read. Send it again.")
_MISSING = _says(
    404, "not_found", "There is nothing here under that id, or it belongs to somebody else."
)

#: What is told of each kind of failure; the nearest class of an error decides.
TOLD: Final[dict[type[Exception], Told]] = {
    ValidationError: _invalid,
    FieldError: _field,
    BundleError: _bundle,
    OutOfRangeError: _says(422, "outside"),
    ConflictError: _says(409, "conflict"),
    GoneError: _says(404, "not_found"),
    FullError: _says(409, "quota"),
    NoRoomError: _says(507, "no_room"),
    KeptBesideError: _kept_beside,
    UnreadableError: _says(409, "unreadable"),
    AuthenticationError: _says(
        401, "signed_out", "You are not signed in. Sign in and try again."
    ),
    PermissionDenied: lambda request, error: (
        403, Problem(code="denied", message=str(error) or "Not allowed.")
    ),
    HttpError: _http,
    Throttled: _says(
        429, "too_many", "Too many tries from this address. Wait a minute, then try again."
    ),
    TooLargeError: _says(413, "too_large"),
    MultiPartParserError: _UNREADABLE,
    SuspiciousOperation: _UNREADABLE,
    UnreadablePostError: _UNREADABLE,
    IntegrityError: _clash,
    BusyError: _says(503, "busy"),
    Http404: _MISSING,
    ObjectDoesNotExist: _MISSING,
    Exception: _unexpected,
}  # fmt: skip


def install(api: NinjaAPI) -> None:
    """Answer every failure in the one shape."""

    def answering(told: Told) -> Any:
        def answer(request: HttpRequest, error: Any) -> HttpResponse:
            status, problem = told(request, error)
            return api.create_response(request, problem.model_dump(), status=status)

        return answer

    for kind, told in TOLD.items():
        api.add_exception_handler(kind, answering(told))

    full = answering(TOLD[NoRoomError])

    def lost(request: HttpRequest, error: Any) -> HttpResponse:
        logger.warning("database at %s: %s", request.path, error)
        return full(request, NoRoomError()) if is_full(error) else unavailable()

    api.add_exception_handler(OperationalError, lost)
    api.add_exception_handler(InterfaceError, lost)


def _is_rolled_back() -> bool:
    """Whether a transaction stands around this request, which its answer will roll back."""
    try:
        return connection.in_atomic_block
    except DatabaseError:
        return False


def _with_input(item: ErrorDetails, request: HttpRequest) -> ErrorDetails:
    """Ninja leaves out what was sent; a refusal should name it."""
    if "input" in item:
        return item
    try:
        found: Any = json.loads(request.body)
        for part in item["loc"]:
            found = found if part in ("body", "payload") else found[part]
    except (ValueError, KeyError, IndexError, TypeError, RawPostDataException, RecursionError):
        # A form's parts or a missing field: there is no value to name.
        return item
    return cast(ErrorDetails, {**item, "input": found})


def _sentence(item: ErrorDetails) -> str:
    if item["type"] == "value_error":
        return str(item.get("ctx", {}).get("error", item["msg"]))
    if item["type"] == SAID_WHOLE:
        return item["msg"]
    if item["type"] == "extra_forbidden":
        return "is not a field here; leave it out"
    return explain(item)

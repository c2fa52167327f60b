"""One shape for every failure: {code, message, fields, faults}."""

from __future__ import annotations

import json
import logging
from typing import Any, Final, cast

from django.core.exceptions import ObjectDoesNotExist, PermissionDenied, SuspiciousOperation
from django.db import connection
from django.db.utils import DatabaseError, IntegrityError, InterfaceError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.http.multipartparser import MultiPartParserError
from django.http.request import RawPostDataException, UnreadablePostError
from ninja import NinjaAPI, Schema
from ninja.errors import AuthenticationError, HttpError, Throttled, ValidationError
from pydantic import Field
from pydantic_core import ErrorDetails

from limpet.errors import BundleError, LimpetError, OutOfRangeError
from limpet.evidence.columns import ENTRY_LABELS
from limpet.fields import FORMS
from limpet.files.document import explain
from server.wire.reading import BodyError
from server.wire.turns import BusyError

logger = logging.getLogger(__name__)


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
        "Limpet's database does not answer just now; nothing was stored. Try again in a moment."
    )
    response = problem_response(503, "unavailable", message)
    response["Retry-After"] = "5"
    return response


def install(api: NinjaAPI) -> None:
    """Answer every failure in the one shape."""

    def answer(request: HttpRequest, status: int, problem: Problem) -> HttpResponse:
        return api.create_response(request, problem.model_dump(), status=status)

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        fields: dict[str, str] = {}
        for item in cast(list[ErrorDetails], error.errors):
            name = ".".join(str(part) for part in item["loc"] if part not in ("body", "payload"))
            fields.setdefault(name or "body", _sentence(_with_input(item, request)))
        listed = "; ".join(
            f"{label_of(name, request.path)} {text}" for name, text in fields.items()
        )
        return answer(request, 422, Problem(code="invalid", message=listed, fields=fields))

    @api.exception_handler(FieldError)
    def field(request: HttpRequest, error: FieldError) -> HttpResponse:
        return answer(
            request, 422, Problem(code="invalid", message=str(error), fields=error.fields)
        )

    @api.exception_handler(BundleError)
    def bundle(request: HttpRequest, error: BundleError) -> HttpResponse:
        count = len(error.faults)
        message = f"The bundle was not taken: {count} fault{'' if count == 1 else 's'}. Nothing was stored."
        faults: list[Any] = [
            FaultOut(file=f.file, line=f.line, column=f.column, message=f.message)
            for f in error.faults
        ]
        return answer(request, 422, Problem(code="bundle_refused", message=message, faults=faults))

    @api.exception_handler(OutOfRangeError)
    def outside(request: HttpRequest, error: OutOfRangeError) -> HttpResponse:
        return answer(request, 422, Problem(code="outside", message=str(error)))

    @api.exception_handler(ConflictError)
    def conflict(request: HttpRequest, error: ConflictError) -> HttpResponse:
        return answer(request, 409, Problem(code="conflict", message=str(error)))

    @api.exception_handler(UnreadableError)
    def unreadable_row(request: HttpRequest, error: UnreadableError) -> HttpResponse:
        return answer(request, 409, Problem(code="unreadable", message=str(error)))

    @api.exception_handler(AuthenticationError)
    def signed_out(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        message = "You are not signed in. Sign in and try again."
        return answer(request, 401, Problem(code="signed_out", message=message))

    @api.exception_handler(PermissionDenied)
    def denied(request: HttpRequest, error: PermissionDenied) -> HttpResponse:
        return answer(request, 403, Problem(code="denied", message=str(error) or "Not allowed."))

    @api.exception_handler(HttpError)
    def http(request: HttpRequest, error: HttpError) -> HttpResponse:
        code = {
            400: "bad_request",
            403: "denied",
            404: "not_found",
            413: "too_large",
            429: "too_many",
        }
        cause = error.__cause__
        message = str(cause) if isinstance(cause, BodyError) else error.message
        return answer(
            request,
            error.status_code,
            Problem(code=code.get(error.status_code, "error"), message=message),
        )

    @api.exception_handler(Throttled)
    def throttled(request: HttpRequest, error: Throttled) -> HttpResponse:
        message = "Too many tries from this address. Wait a minute, then try again."
        return answer(request, 429, Problem(code="too_many", message=message))

    @api.exception_handler(TooLargeError)
    def too_large(request: HttpRequest, error: TooLargeError) -> HttpResponse:
        return answer(request, 413, Problem(code="too_large", message=str(error)))

    def unreadable(request: HttpRequest, error: Exception) -> HttpResponse:
        message = "The body is not a form that can be read. Send it again."
        return answer(request, 400, Problem(code="bad_request", message=message))

    api.add_exception_handler(MultiPartParserError, cast(Any, unreadable))
    api.add_exception_handler(SuspiciousOperation, cast(Any, unreadable))
    api.add_exception_handler(UnreadablePostError, cast(Any, unreadable))

    @api.exception_handler(IntegrityError)
    def clash(request: HttpRequest, error: IntegrityError) -> HttpResponse:
        # The services decide the clashes that they foresee; this is one between two clients.
        logger.warning("clash at %s: %s", request.path, error)
        message = "Something else changed this at the same moment; nothing was stored. Load the page again."
        return answer(request, 409, Problem(code="conflict", message=message))

    @api.exception_handler(BusyError)
    def busy(request: HttpRequest, error: BusyError) -> HttpResponse:
        return answer(request, 503, Problem(code="busy", message=str(error)))

    def lost(request: HttpRequest, error: Exception) -> HttpResponse:
        logger.warning("database at %s: %s", request.path, error)
        return unavailable()

    api.add_exception_handler(OperationalError, cast(Any, lost))
    api.add_exception_handler(InterfaceError, cast(Any, lost))

    def missing(request: HttpRequest, error: Exception) -> HttpResponse:
        message = "There is nothing here under that id, or it belongs to somebody else."
        return answer(request, 404, Problem(code="not_found", message=message))

    api.add_exception_handler(Http404, cast(Any, missing))
    api.add_exception_handler(ObjectDoesNotExist, cast(Any, missing))

    @api.exception_handler(Exception)
    def unexpected(request: HttpRequest, error: Exception) -> HttpResponse:
        logger.exception("unexpected failure at %s", request.path)
        # `whole` rolls a change back when it is answered with a failure; only then is this true.
        kept = " Nothing was stored." if _is_rolled_back() else ""
        message = f"Limpet failed at this.{kept} The server's log says where."
        return answer(request, 500, Problem(code="failed", message=message))


#: The forms behind an address, by its first word; the first that has a field names it.
FORMS_AT: Final[dict[str, tuple[str, ...]]] = {
    "vehicles": ("vehicle",),
    "packs": ("pack",),
    "riders": ("rider",),
    "routes": ("route",),
    "plans": ("guess", "plan", "trip"),
    "forecast": ("trip",),
    "claims": ("claim",),
    "size": ("size", "cell", "trip"),
    "tests": ("ride",),
}
#: What stands in a form under a name of its own.
WITHIN: Final = {"legs": "leg", "step_down": "step_down", "cell": "cell", "trip": "trip"}


def label_of(path: str, address: str) -> str:
    """What a form calls the field at a path such as `legs.2.length_m`: "Length of leg 3"."""
    *above, name = path.split(".")
    inner = [WITHIN[part] for part in reversed(above) if part in WITHIN]
    word = next((part for part in address.split("/") if part in FORMS_AT), "")
    fields = [FORMS[form].get(name) for form in (*inner, *FORMS_AT.get(word, ()))]
    found = next((field.label for field in fields if field is not None), None)
    label = found or ENTRY_LABELS.get(name) or name.replace("_", " ")
    if len(above) >= 2 and above[-1].isdecimal():
        label += f" of {above[-2].rstrip('s').replace('_', ' ')} {int(above[-1]) + 1}"
    return label


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
    if item["type"] == "extra_forbidden":
        return "is not a field here; leave it out"
    return explain(item)

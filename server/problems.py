"""One shape for every failure: {code, message, fields, faults}."""

from __future__ import annotations

import json
import logging
from typing import Any, cast

from django.core.exceptions import ObjectDoesNotExist, PermissionDenied
from django.http import Http404, HttpRequest, HttpResponse
from django.http.request import RawPostDataException
from ninja import NinjaAPI, Schema
from ninja.errors import AuthenticationError, HttpError, ValidationError
from pydantic import Field
from pydantic_core import ErrorDetails

from limpet.bundle.document import explain
from limpet.errors import BundleError, LimpetError, OutOfRangeError

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
        listed = "; ".join(f"{name.replace('_', ' ')} {text}" for name, text in fields.items())
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

    @api.exception_handler(AuthenticationError)
    def signed_out(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        message = "You are not signed in. Sign in and try again."
        return answer(request, 401, Problem(code="signed_out", message=message))

    @api.exception_handler(PermissionDenied)
    def denied(request: HttpRequest, error: PermissionDenied) -> HttpResponse:
        return answer(request, 403, Problem(code="denied", message=str(error) or "Not allowed."))

    @api.exception_handler(HttpError)
    def http(request: HttpRequest, error: HttpError) -> HttpResponse:
        code = {400: "bad_request", 403: "denied", 404: "not_found", 413: "too_large"}
        return answer(
            request,
            error.status_code,
            Problem(code=code.get(error.status_code, "error"), message=error.message),
        )

    def missing(request: HttpRequest, error: Exception) -> HttpResponse:
        message = "There is nothing here under that id, or it belongs to somebody else."
        return answer(request, 404, Problem(code="not_found", message=message))

    api.add_exception_handler(Http404, missing)
    api.add_exception_handler(ObjectDoesNotExist, missing)

    @api.exception_handler(Exception)
    def unexpected(request: HttpRequest, error: Exception) -> HttpResponse:
        logger.exception("unexpected failure at %s", request.path)
        message = "Limpet failed at this; nothing was stored. The server's log says where."
        return answer(request, 500, Problem(code="failed", message=message))


def _with_input(item: ErrorDetails, request: HttpRequest) -> ErrorDetails:
    """Ninja leaves out what was sent; a refusal should name it."""
    if "input" in item:
        return item
    try:
        found: Any = json.loads(request.body)
        for part in item["loc"]:
            found = found if part in ("body", "payload") else found[part]
    except (ValueError, KeyError, IndexError, TypeError, RawPostDataException):
        # A form's parts or a missing field: there is no value to name.
        return item
    return cast(ErrorDetails, {**item, "input": found})


def _sentence(item: ErrorDetails) -> str:
    if item["type"] == "value_error":
        return str(item.get("ctx", {}).get("error", item["msg"]))
    if item["type"] == "extra_forbidden":
        return "is not a field here; leave it out"
    return explain(item)

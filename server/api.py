"""The API: everything under /api, signed in unless said otherwise."""

from collections.abc import Callable
from functools import wraps
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema
from ninja.security import django_auth

from server.account_api import router as account
from server.accounts.api import router as accounts
from server.backups.api import router as backups
from server.formats import router as formats
from server.imports.api import router as imports
from server.kit.api import router as kit
from server.logbook.api import router as logbook
from server.plans.api import router as plans
from server.plans.practice import router as practice
from server.plans.series_api import router as series
from server.plans.tides_api import router as tides
from server.results.api import router as results
from server.results.compare_api import router as compare_router
from server.results.lives_api import router as lives
from server.wire import refusals
from server.wire.beside import beside
from server.wire.named_enums import name_enums
from server.wire.problems import problem_response
from server.wire.reading import BoundedParser

#: What any address may answer with, beside what its own lines say.
_ANY = {401, 403, 404, 422, 500, 503}
_ANY_CHANGE = {400, 409, 413, 429, 507}


def _signed_in_only(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
    """The description of the API is for those who may use it."""

    @wraps(view)
    def guarded(request: HttpRequest, *arguments: Any, **named: Any) -> HttpResponse:
        if not request.user.is_authenticated:
            message = "The API is described to those who are signed in."
            return problem_response(401, "signed_out", message)
        return view(request, *arguments, **named)

    return guarded


class LimpetApi(NinjaAPI):
    """The API, whose description tells every answer that it can give."""

    def get_openapi_schema(self, **options: Any) -> OpenAPISchema:
        """Ninja's description, with the failures that all addresses share and a name for every
        enumeration."""
        schema = super().get_openapi_schema(**options)
        refusal = {
            "description": "A failure in the one shape",
            "content": {"application/json": {"schema": {"$ref": "#/components/schemas/Problem"}}},
        }
        for operations in schema["paths"].values():
            for method, operation in operations.items():
                codes = _ANY if method == "get" else _ANY | _ANY_CHANGE
                said = {int(code) for code in operation["responses"]}
                for code in sorted(codes - said):
                    operation["responses"][code] = refusal
        name_enums(schema)
        return schema


api = LimpetApi(
    title="Limpet",
    version="1",
    description="Range tests of light electric vehicles. Every id is made by the client; a repeated "
    "send changes nothing. Every failure has one shape: code, message, fields, faults.",
    auth=django_auth,
    urls_namespace="api",
    parser=BoundedParser(),
    docs_decorator=_signed_in_only,
)
refusals.install(api)
api.add_router("", accounts)
api.add_router("/account", account)
api.add_router("", kit)
api.add_router("/compare", compare_router)
api.add_router("/tests", beside(results, logbook))
api.add_router("/imports", imports)
api.add_router("", lives)
api.add_router("", plans)
api.add_router("", series)
api.add_router("", tides)
api.add_router("", practice)
api.add_router("/formats", formats)
api.add_router("/backups", backups)

"""The API: everything under /api, signed in unless said otherwise."""

from ninja import NinjaAPI
from ninja.security import django_auth

from server import problems
from server.accounts.api import router as accounts
from server.kit.api import router as kit
from server.logbook.api import router as logbook
from server.plans.api import router as plans

api = NinjaAPI(
    title="Limpet",
    version="1",
    description="Range tests of light electric vehicles. Every id is made by the client; a repeated "
    "send changes nothing. Every failure has one shape: code, message, fields, faults.",
    auth=django_auth,
    urls_namespace="api",
)
problems.install(api)
api.add_router("", accounts)
api.add_router("", kit)
api.add_router("/tests", logbook)
api.add_router("", plans)

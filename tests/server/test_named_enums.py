"""Enumerations of the API's description have names, and two routers share their addresses."""

from __future__ import annotations

import json

import pytest
from ninja import NinjaAPI, Router

from server.api import api
from server.wire.beside import beside
from server.wire.named_enums import NAMED, name_enums

DESCRIPTION = json.loads(json.dumps(api.get_openapi_schema(path_prefix="/api/")))


def inline_enums(part, where=""):
    if isinstance(part, dict):
        if len(part.get("enum", ())) > 1:
            yield where
        for key, inner in part.items():
            yield from inline_enums(inner, f"{where}/{key}")
    elif isinstance(part, list):
        for number, inner in enumerate(part):
            yield from inline_enums(inner, f"{where}/{number}")


def test_every_enumeration_stands_once_under_its_name():
    assert sorted(inline_enums(DESCRIPTION)) == sorted(
        f"/components/schemas/{name}" for name in NAMED
    )
    purpose = DESCRIPTION["components"]["schemas"]["RideIn"]["properties"]["purpose"]
    assert {"$ref": "#/components/schemas/Purpose"} in purpose["anyOf"]


def test_every_operation_says_what_it_does():
    silent = [
        operation["operationId"]
        for operations in DESCRIPTION["paths"].values()
        for operation in operations.values()
        if not operation.get("description")
    ]
    assert silent == []


def shape(**more):
    kind = {"enum": ["mi", "km"], "type": "string", "title": "Kind"}
    return {
        "paths": {},
        "components": {"schemas": {"Units": {"properties": {"distance": kind}}, **more}},
    }


def test_an_enumeration_without_a_name_is_refused(monkeypatch):
    monkeypatch.setattr("server.wire.named_enums.NAMED", {"DistanceUnit": "Units.distance"})
    name_enums(shape())
    other = {"enum": ["a", "b"], "type": "string"}
    with pytest.raises(LookupError, match="without a name"):
        name_enums(shape(Other=other))
    monkeypatch.setattr("server.wire.named_enums.NAMED", {"DistanceUnit": "Units.gone"})
    with pytest.raises(LookupError, match=r"Units\.gone"):
        name_enums(shape())
    monkeypatch.setattr("server.wire.named_enums.NAMED", {"Units": "Units.distance"})
    with pytest.raises(LookupError, match="one name for two"):
        name_enums(shape())


def test_two_routers_share_an_address_and_words_come_before_ids():
    results, logbook = Router(tags=["results"]), Router(tags=["logbook"])

    @logbook.put("/{name}", operation_id="put")
    def put(request, name: str) -> str:
        return f"put {name}"

    @results.get("/{name}", operation_id="get")
    def get(request, name: str) -> str:
        return f"get {name}"

    @results.get("/now", operation_id="now")
    def now(request) -> str:
        return "now"

    shared = NinjaAPI(urls_namespace="beside")
    shared.add_router("/tests", beside(logbook, results))
    paths = shared.get_openapi_schema(path_prefix="/")["paths"]
    assert list(paths) == ["/tests/now", "/tests/{name}"]
    tags = {verb: operation["tags"] for verb, operation in paths["/tests/{name}"].items()}
    assert tags == {"put": ["logbook"], "get": ["results"]}

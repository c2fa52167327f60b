"""The API against its own description: whatever is asked, no failure and no answer undocumented."""

from __future__ import annotations

import json
import os
import random
from collections.abc import Callable
from typing import Any

import pytest
import schemathesis
from django.db import transaction
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from hypothesis.errors import Unsatisfiable
from schemathesis.generation import GenerationMode

from server.api import api
from tests.server.world import World, cases, world_of

#: Cases of each operation and mode; a long run sets more.
EXAMPLES = int(os.environ.get("LIMPET_EXAMPLES", "4"))
#: So many tests share the operations among them, each in an account of its own.
PARTS = 6

DESCRIPTION = json.loads(json.dumps(api.get_openapi_schema(path_prefix="/api/")))
SCHEMA = schemathesis.openapi.from_dict(DESCRIPTION)
OPERATIONS = [found.ok() for found in SCHEMA.get_all_operations()]


def sent(client: Any, case: Any) -> Any:
    """A generated request through Django's client."""
    path = case.formatted_path
    options: dict[str, Any] = {"query_params": case.query or {}} if case.query else {}
    if case.method.upper() in ("GET", "DELETE"):
        return client.generic(case.method.upper(), path, **options)
    body, kind = case.body, case.media_type or "application/json"
    if kind == "multipart/form-data":
        parts = body if isinstance(body, dict) else {"body": "x"}
        flat = {name: str(part)[:2000] for name, part in parts.items()}
        return client.post(path, flat, **options)
    try:
        data = json.dumps(body) if not isinstance(body, bytes | str) else body
    except (TypeError, ValueError):
        data = "{}"
    return client.generic(case.method.upper(), path, data, content_type=kind, **options)


def said_in(answer: Any) -> bytes:
    """The beginning of an answer, also of one that comes in pieces."""
    whole = b"".join(answer.streaming_content) if answer.streaming else answer.content
    return bytes(whole[:400])


def holds(client: Any, operation: Any, case: Any) -> None:
    answer = sent(client, case)
    said = DESCRIPTION["paths"][operation.path][operation.method.lower()]["responses"]
    assert answer.status_code < 500 or answer.status_code == 503, said_in(answer)
    assert str(answer.status_code) in said, (answer.status_code, said_in(answer))
    if answer.status_code >= 400:
        assert set(answer.json()) == {"code", "message", "fields", "faults"}


@pytest.fixture
def world(ines, kit, ride):
    return world_of(ines, kit, ride)


def named(world: World, path: str, name: str) -> list[str]:
    """Ids that there are of what a field or a piece of an address names; none for what is no id."""
    ids, kit = world.ids, world.kit
    of_name = {
        "test_id": ["ride", "test", "planned"], "plan_id": ["plan", "begun"], "first": ["test"],
        "second": ["ride"], "tests": ["test", "ride"], "ids": ["test", "ride"], "left_aside": ["test"],
    }  # fmt: skip
    if name in kit:
        return [kit[name]]
    if name == "item_id":
        shelf = next(
            (one for one in ("route", "vehicle", "pack", "rider") if f"/{one}s/" in path), ""
        )
        return (
            [ids["route"]]
            if shelf == "route"
            else [kit[f"{shelf}_id"]]
            if shelf
            else sorted(kit.values())
        )
    if name == "name":
        return (
            [f"photos/{ids['photo']}.jpg"]
            if path.endswith("/photo")
            else ["air_humidity"]
            if "/assumptions/" in path
            else []
        )
    if path.endswith(".ics") and name == "first":
        return []
    return [ids[key] for key in of_name.get(name, [name.removesuffix("_id")]) if key in ids]


def with_ids(value: Any, world: World, path: str, real: Callable[[], bool]) -> Any:
    """What is asked, most of its ids of what there is."""
    if isinstance(value, list):
        return [with_ids(one, world, path, real) for one in value]
    if not isinstance(value, dict):
        return value
    found = {}
    for name, one in value.items():
        ids = named(world, path, name)
        if ids and real():
            found[name] = ids if isinstance(one, list) else ids[0]
        else:
            found[name] = with_ids(one, world, path, real)
    return found


#: What takes away what the others ask for: it is tried, and undone.
TAKES_AWAY = ("DELETE", "/remove", "/removed", "/account", "/session", "/password", "/demo")


@pytest.mark.parametrize("part", range(PARTS))
def test_no_request_of_what_is_there_makes_the_api_fail(ines, world, part):
    """One after the other on one account: each finds what those before it have left."""
    operations = OPERATIONS[part::PARTS]
    random.Random(part).shuffle(operations)
    right = {name: asked[0][2] for name, asked in cases(world).items()}
    for operation in operations:
        how = f"{operation.method.upper()} {operation.path}"
        with transaction.atomic():
            ines.client.force_login(ines.user)
            after = [
                one for one in OPERATIONS if how == f"DELETE {one.path.removesuffix('/restore')}"
            ]
            for asked in [operation, *(one for one in after if one.path.endswith("/restore"))]:
                for mode in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE):
                    ask_at_random(ines.client, world, asked, mode, right)
            transaction.set_rollback(any(word in how for word in TAKES_AWAY))


def ask_at_random(
    client: Any, world: World, operation: Any, mode: GenerationMode, right: dict[str, Any]
) -> None:
    """Requests of one operation; of those with a body most are right ones in which some fields are not."""
    body = right.get(operation.definition.raw.get("operationId"))

    @settings(
        max_examples=EXAMPLES, deadline=None, database=None, derandomize=True,
        phases=[Phase.generate], suppress_health_check=list(HealthCheck),
    )  # fmt: skip
    @given(st.data())
    def runs(data):
        case = data.draw(operation.as_strategy(generation_mode=mode))
        often = st.sampled_from([True, True, True, False])

        def real() -> bool:
            return bool(data.draw(often))

        path = operation.path
        if case.path_parameters:
            case.path_parameters = with_ids(dict(case.path_parameters), world, path, real)
        if case.query:
            case.query = with_ids(dict(case.query), world, path, real)
        if isinstance(case.body, dict):
            case.body = with_ids(case.body, world, path, real)
            if body and real():
                some = data.draw(st.lists(st.sampled_from(sorted(case.body) or ["x"]), max_size=2))
                case.body = {
                    **body,
                    **{name: case.body[name] for name in some if name in case.body},
                }
        holds(client, operation, case)

    try:
        runs()
    except Unsatisfiable:
        # An address without parameters cannot be asked otherwise than it is described.
        assert mode is GenerationMode.NEGATIVE
        assert not DESCRIPTION["paths"][operation.path][operation.method.lower()].get("requestBody")

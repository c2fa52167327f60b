"""The API against its own description: whatever is asked, no failure and no answer undocumented."""

from __future__ import annotations

import json
import os
from typing import Any

import pytest
import schemathesis
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from hypothesis.errors import Unsatisfiable
from schemathesis.generation import GenerationMode

from server.api import api

#: Cases of each operation and mode; a long run sets more.
EXAMPLES = int(os.environ.get("LIMPET_EXAMPLES", "8"))

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


@pytest.mark.parametrize("operation", OPERATIONS, ids=lambda op: f"{op.method} {op.path}")
@pytest.mark.parametrize("mode", [GenerationMode.POSITIVE, GenerationMode.NEGATIVE], ids=["as described", "otherwise"])  # fmt: skip
def test_no_request_makes_the_api_fail(ines, kit, operation, mode):
    cases = operation.as_strategy(generation_mode=mode)

    @settings(
        max_examples=EXAMPLES, deadline=None, database=None, derandomize=True,
        phases=[Phase.generate], suppress_health_check=list(HealthCheck),
    )  # fmt: skip
    @given(st.data())
    def runs(data):
        case = data.draw(cases)
        # Half of what is asked for is there: ids of the kit instead of made-up ones.
        if "item_id" in (case.path_parameters or {}) and data.draw(st.booleans()):
            case.path_parameters["item_id"] = data.draw(st.sampled_from(sorted(kit.values())))
        holds(ines.client, operation, case)

    try:
        runs()
    except Unsatisfiable:
        # An address without parameters cannot be asked otherwise than it is described.
        assert mode is GenerationMode.NEGATIVE
        assert not DESCRIPTION["paths"][operation.path][operation.method.lower()].get("requestBody")

"""The formats' schemas over HTTP."""

from __future__ import annotations

from limpet.formats import NAMES, schema_of


def test_every_schema_is_served_to_anybody(nobody):
    assert nobody.get("/formats").json() == list(NAMES)
    for name in NAMES:
        answer = nobody.get(f"/formats/{name}.schema.json")
        assert answer.status_code == 200
        assert answer.json() == schema_of(name)


def test_what_has_no_schema_is_told(nobody):
    answer = nobody.get("/formats/dream.schema.json")
    assert answer.status_code == 422
    assert "test" in str(answer.json())

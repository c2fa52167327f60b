"""The open formats' schemas over HTTP, for whoever writes files that Limpet reads."""

from __future__ import annotations

from typing import Any, Literal

from django.http import HttpRequest
from ninja import Router

from limpet.formats import NAMES, schema_of

router = Router(tags=["formats"])
Format = Literal["test", "trip", "claim", "mapping", "cell", "samples", "entries"]


@router.get("", operation_id="listFormats", response=list[Format], auth=None)
def list_formats(request: HttpRequest) -> list[str]:
    """What has a schema."""
    return list(NAMES)


@router.get("/{name}.schema.json", operation_id="getFormat", response=dict[str, Any], auth=None)
def get_format(request: HttpRequest, name: Format) -> dict[str, Any]:
    """JSON Schema of a JSON file, Table Schema of a CSV."""
    return schema_of(name)

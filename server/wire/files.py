"""Files in the API's description: what a download is."""

from __future__ import annotations

from typing import Any


def as_file(content_type: str) -> dict[str, Any]:
    """What an operation that answers with a file says of it, for `openapi_extra`."""
    schema = {"type": "string", "format": "binary"}
    return {
        "responses": {200: {"description": "OK", "content": {content_type: {"schema": schema}}}}
    }

"""A mapping as a JSON file: written for every instrument, and read again by a command or another Limpet."""

from __future__ import annotations

import json
from functools import lru_cache
from typing import Any

from pydantic import TypeAdapter

from limpet.errors import BundleError, Fault
from limpet.files.document import read_document
from limpet.foreign.recipe import LogMapping, mapping_faults

#: Bytes of a mapping's file.
MOST_BYTES = 512 * 1024


@lru_cache(maxsize=1)
def mapping_adapter() -> TypeAdapter[LogMapping]:
    """Pydantic's reader of mappings; one, because building it takes some milliseconds."""
    return TypeAdapter(LogMapping)


def read_mapping(file: str, data: bytes) -> LogMapping:
    """The mapping of a file.

    Raises
    ------
    BundleError
        With every fault of the file.
    """
    if len(data) > MOST_BYTES:
        raise BundleError([Fault(file, 0, 0, "is too large to be a mapping")])
    mapping, _ = read_document(file, data, mapping_adapter(), LogMapping, mapping_faults)
    return mapping


def mapping_document(mapping: LogMapping) -> dict[str, Any]:
    """A mapping as its file has it, without what is not set."""
    document: dict[str, Any] = mapping_adapter().dump_python(
        mapping, mode="json", exclude_none=True
    )
    return document


def write_mapping(mapping: LogMapping) -> bytes:
    """A mapping as a file."""
    return (json.dumps(mapping_document(mapping), indent=2, ensure_ascii=False) + "\n").encode()

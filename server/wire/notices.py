"""A notice over HTTP: worded in the reader's units when it goes out, whenever it was kept."""

from __future__ import annotations

from typing import Any

from pydantic import model_validator

from limpet.notices import Notice, Severity
from server.wire.reader import reader_units
from server.wire.schema import Schema


class NoticeOut(Schema):
    """A warning: a code for programs, how much it matters, a sentence for people."""

    code: str
    severity: Severity
    message: str

    @model_validator(mode="before")
    @classmethod
    def _worded(cls, kept: Any) -> Any:
        """From a notice of the core, or from one that any version kept."""
        if isinstance(kept, Notice | dict):
            return worded(kept)
        return kept


def worded(kept: Notice | dict[str, Any]) -> dict[str, Any]:
    """A notice as it goes out."""
    notice = kept if isinstance(kept, Notice) else Notice.from_json(kept)
    code = notice.code
    if code == "as_kept" and isinstance(kept, dict):
        code = str(kept.get("code", code))[:100]
    return {"code": code, "severity": notice.severity, "message": notice.said(reader_units())}


class Told(Schema):
    """An answer with its sentence."""

    notice: NoticeOut

    @model_validator(mode="before")
    @classmethod
    def _from_words(cls, kept: Any) -> Any:
        """What 0.2 kept was the sentence alone."""
        if isinstance(kept, dict) and "notice" not in kept and isinstance(kept.get("reason"), str):
            return {**kept, "notice": {"code": "as_kept", "message": kept["reason"]}}
        return kept

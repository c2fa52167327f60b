"""Several tests against each other: which uses less, by how much, and whether that is shown."""

from limpet.judge.answer import Comparison, Question
from limpet.judge.compare import compare
from limpet.judge.seen import Seen, seen_from_json, seen_of

__all__ = ["Comparison", "Question", "Seen", "compare", "seen_from_json", "seen_of"]

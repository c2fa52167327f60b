"""Several tests against each other: which uses less, by how much, and whether that is shown."""

from limpet.judge.answer import Comparison, Question
from limpet.judge.comparand import Comparand, comparand_from_json, comparand_of
from limpet.judge.compare import compare

__all__ = [
    "Comparand",
    "Comparison",
    "Question",
    "comparand_from_json",
    "comparand_of",
    "compare",
]

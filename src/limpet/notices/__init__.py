"""What a rider must hear: codes and values inside, one function that makes the sentence."""

from limpet.notices.codes import CODES, Severity
from limpet.notices.notice import Notice
from limpet.notices.words import METRIC, ReaderUnits, per_core, sentence, sentence_of, shown

__all__ = [
    "CODES",
    "METRIC",
    "Notice",
    "ReaderUnits",
    "Severity",
    "per_core",
    "sentence",
    "sentence_of",
    "shown",
]

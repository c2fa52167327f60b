"""What a rider must hear: codes and values inside, one function that makes the sentence."""

from limpet.notices.codes import CODES, Severity
from limpet.notices.notice import Notice
from limpet.notices.words import sentence

__all__ = ["CODES", "Notice", "Severity", "sentence"]

"""From a test as recorded to what it means."""

from limpet.result.analyse import analyse
from limpet.result.drawing import Strip, Traces, strip_of, traces_of
from limpet.result.line import Line
from limpet.result.model import Result

__all__ = ["Line", "Result", "Strip", "Traces", "analyse", "strip_of", "traces_of"]

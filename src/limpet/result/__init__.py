"""From a test as recorded to what it means."""

from limpet.result.analyse import analyse
from limpet.result.drawing import Strip, strip_of
from limpet.result.line import Line
from limpet.result.model import Result
from limpet.result.traces import Traces, traces_of

__all__ = ["Line", "Result", "Strip", "Traces", "analyse", "strip_of", "traces_of"]

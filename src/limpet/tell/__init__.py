"""What a test means: its figures, and what is told of them."""

from limpet.tell.analyse import analyse
from limpet.tell.result import Result

__all__ = ["Result", "analyse"]

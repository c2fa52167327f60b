"""A ride under way: what is left, and whether it is enough for the way that is left."""

from limpet.follow.advice import Advice, advise
from limpet.follow.answer import Enough, Following, Way
from limpet.follow.follow import follow
from limpet.follow.ways import WayAhead

__all__ = ["Advice", "Enough", "Following", "Way", "WayAhead", "advise", "follow"]

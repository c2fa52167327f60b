"""A ride under way: what is left, and whether it is enough for the way that is left."""

from limpet.under_way.advice import Advice, advise
from limpet.under_way.answer import Enough, Following, Way
from limpet.under_way.follow import follow
from limpet.under_way.ways import WayAhead

__all__ = ["Advice", "Enough", "Following", "Way", "WayAhead", "advise", "follow"]

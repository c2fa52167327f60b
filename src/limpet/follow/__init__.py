"""A ride under way: what is left, and whether it is enough for the way that is left."""

from limpet.follow.answer import Enough, Following, Way
from limpet.follow.follow import follow

__all__ = ["Enough", "Following", "Way", "follow"]

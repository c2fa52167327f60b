"""Many tests of one vehicle and one pack: what they teach the next."""

from limpet.history.learn import learn

__all__ = ["learn"]

"""What earlier tests of a vehicle and a pack teach the next, and a trip."""

from limpet.history.facts import Facts, facts_from_json, facts_of, pack_key, pack_key_of
from limpet.history.inform import informed
from limpet.history.learn import learn, learn_for, learn_from, learn_trip, learn_under_way
from limpet.history.road_fit import RoadFound, road_of

__all__ = [
    "Facts",
    "RoadFound",
    "facts_from_json",
    "facts_of",
    "informed",
    "learn",
    "learn_for",
    "learn_from",
    "learn_trip",
    "learn_under_way",
    "pack_key",
    "pack_key_of",
    "road_of",
]

"""The practice ride: a made-up ride, the log that a rider keeps of it, and that log beside the truth."""

from limpet.practice.course import PracticeRide, practice_ride
from limpet.practice.lessons import said_of, slip_said
from limpet.practice.practice_log import MOST_ENTRIES, PracticeLog
from limpet.practice.review import Review, review

__all__ = [
    "MOST_ENTRIES",
    "PracticeLog",
    "PracticeRide",
    "Review",
    "practice_ride",
    "review",
    "said_of",
    "slip_said",
]

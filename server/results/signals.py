"""What others may want to hear of results."""

from django.dispatch import Signal

#: An ended test teaches something else than before, or is gone; `test` is the range test. Sent inside the transaction.
facts_changed = Signal()
#: The worker has done all that was due: others may now do what builds on it.
all_computed = Signal()
#: Which ways an account of its `owner` wants to make: receivers give a list of the core's `TripAsked`.
ways_wanted = Signal()

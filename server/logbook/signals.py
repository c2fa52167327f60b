"""What others may want to hear of a logbook."""

from django.dispatch import Signal

#: A ride has ended; `test` is the range test. Sent inside the transaction that ended it.
ride_ended = Signal()
#: What was recorded of a test has changed, and is stored.
evidence_changed = Signal()

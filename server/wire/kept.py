"""Answers that cost much, kept in this process by what they were made from."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Generic, TypeVar

V = TypeVar("V")


class Kept(Generic[V]):
    """At most so many answers; the one that was asked for longest ago goes first.

    A key holds everything that an answer hangs on, so nothing here ever has to be taken back: what was
    made from other evidence is another answer.

    Parameters
    ----------
    most : answers that are kept
    """

    def __init__(self, most: int) -> None:
        self._most = most
        self._answers: OrderedDict[Hashable, V] = OrderedDict()
        self._lock = threading.Lock()

    def of(self, key: Hashable, make: Callable[[], V]) -> V:
        """The answer of a key, made now if it is not there.

        Notes
        -----
        Two that ask at once for the same may both make it: that costs less than one waiting for the other.
        """
        with self._lock:
            if key in self._answers:
                self._answers.move_to_end(key)
                return self._answers[key]
        made = make()
        with self._lock:
            self._answers[key] = made
            self._answers.move_to_end(key)
            while len(self._answers) > self._most:
                self._answers.popitem(last=False)
        return made

    def __len__(self) -> int:
        return len(self._answers)

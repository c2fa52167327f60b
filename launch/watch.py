"""Watches the database of a running server and brings it back when it dies."""

from __future__ import annotations

import threading

from launch.database import Database
from launch.say import Trouble, say

#: How often it is looked at, and how long is waited between tries, doubled each time [s].
LOOK_S, FIRST_WAIT_S, LONGEST_WAIT_S = 0.5, 0.5, 30.0


class Watch(threading.Thread):
    """Looks at the database until it is told to stop."""

    def __init__(self, database: Database) -> None:
        super().__init__(name="database watch", daemon=True)
        self._database = database
        self._stopped = threading.Event()

    def stop(self) -> None:
        """End, and wait for a revival under way: stopping must not race with starting."""
        self._stopped.set()
        self.join()

    def run(self) -> None:
        """The thread's own loop."""
        wait_s = FIRST_WAIT_S
        while not self._stopped.wait(LOOK_S):
            if self._database.is_alive:
                wait_s = FIRST_WAIT_S
                continue
            say("· MariaDB has died; starting it again …")
            try:
                self._database.revive()
                say("  it runs again")
            except Trouble as trouble:
                say(f"  it does not start ({trouble}); next try in {wait_s:.0f} s")
                self._stopped.wait(wait_s)
                wait_s = min(2 * wait_s, LONGEST_WAIT_S)

"""What rings now: each timer once, also one that ran out while nobody looked."""

from zinnet.bench.timers import Timers

FORGOTTEN_S = 3600.0
"""A timer that rang so long ago rings no more."""


class Alarm:
    """Tells of timers that they rang, at each look those that did so since the last one."""

    def __init__(self) -> None:
        self._rung: set[str] = set()

    def ringing(self, timers: Timers) -> list[str]:
        """Return the names of the timers that ring now and did not at the last look."""
        now = timers.clock()
        over = {timer.id: timer.name for timer in timers.all if -FORGOTTEN_S < timer.left_s(now) <= 0}
        fresh = [name for timer_id, name in over.items() if timer_id not in self._rung]
        self._rung = set(over)
        return fresh

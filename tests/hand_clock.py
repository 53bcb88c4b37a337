"""A clock that is set by hand."""

from dataclasses import replace

from zinnet.bench.timers import Moment


class HandClock:
    """It stands until it is told to go on."""

    def __init__(self):
        self.moment = Moment("a", 1000.0, 1_800_000_000.0)

    def __call__(self):
        return self.moment

    def later(self, seconds, **fields):
        now = self.moment
        self.moment = replace(
            now, since_boot_s=now.since_boot_s + seconds, calendar_s=now.calendar_s + seconds, **fields
        )

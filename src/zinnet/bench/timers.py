"""Timers that survive: kept in a file by when they ring, so that they go on while the program is away."""

import json
import time
from collections.abc import Callable, Sequence
from dataclasses import asdict, dataclass, replace
from pathlib import Path

import platformdirs

from zinnet.base.errors import ZinnetError
from zinnet.base.files import read_file, write_whole
from zinnet.base.json_file import read_json
from zinnet.base.locks import held

BOOT = Path("/proc/sys/kernel/random/boot_id")
TIMERS = "timers.json"
MOST_BYTES = 200_000
MOST = 60


@dataclass(frozen=True)
class Moment:
    """A moment on two clocks: the machine's since it was started, which nobody sets, and the calendar's, in s."""

    boot: str
    since_boot_s: float
    calendar_s: float

    def until(self, later: "Moment") -> float:
        """Return how many seconds lie between two moments: by the machine's clock, unless it was started anew."""
        if self.boot and self.boot == later.boot:
            return later.since_boot_s - self.since_boot_s
        return later.calendar_s - self.calendar_s


Clock = Callable[[], Moment]


def machine_clock() -> Moment:
    """Return now. The machine's clock goes on while it sleeps."""
    try:
        boot = BOOT.read_text(encoding="ascii").strip()
    except OSError:
        boot = ""
    return Moment(boot, time.clock_gettime(time.CLOCK_BOOTTIME), time.time())


@dataclass(frozen=True)
class Timer:
    """One timer: what it is for, how long it runs, since when, and how much was over before that.

    ``since`` is None while it is paused.
    """

    id: str
    name: str
    seconds: float
    over_s: float
    since: Moment | None

    def gone_s(self, now: Moment) -> float:
        """Return how long it has run."""
        return self.over_s + (self.since.until(now) if self.since is not None else 0.0)

    def left_s(self, now: Moment) -> float:
        """Return how long it still runs; below zero when it has rung."""
        return self.seconds - self.gone_s(now)


class Timers:
    """The running timers, kept in a file at every change; those of other windows stay in it as they are."""

    def __init__(self, path: Path | None = None, clock: Clock = machine_clock) -> None:
        self.path = path or platformdirs.user_state_path("zinnet") / TIMERS
        self.clock = clock
        self._timers: dict[str, Timer] = {one.id: one for one in _read(self.path)}

    @property
    def all(self) -> tuple[Timer, ...]:
        """All timers, the one that rings first first."""
        now = self.clock()
        return tuple(sorted(self._timers.values(), key=lambda timer: timer.left_s(now)))

    def get(self, timer_id: str) -> Timer | None:
        """Return a timer by its id."""
        return self._timers.get(timer_id)

    def left_s(self, timer_id: str) -> float | None:
        """Return how long a timer still runs, or None where there is none."""
        timer = self._timers.get(timer_id)
        return None if timer is None else timer.left_s(self.clock())

    def start(self, timer_id: str, name: str, seconds: float) -> Timer:
        """Start a timer anew."""
        return self._keep(Timer(timer_id, name, seconds, 0.0, self.clock()))

    def pause(self, timer_id: str) -> None:
        """Stop a timer's time, or let it go on."""
        timer = self._timers.get(timer_id)
        if timer is None:
            return
        now = self.clock()
        if timer.since is None:
            self._keep(replace(timer, since=now))
        else:
            self._keep(replace(timer, over_s=timer.gone_s(now), since=None))

    def add(self, timer_id: str, seconds: float) -> None:
        """Let a timer run longer; one that has rung runs so long from now."""
        timer = self._timers.get(timer_id)
        if timer is not None:
            now = self.clock()
            base = max(timer.gone_s(now), timer.seconds) if timer.left_s(now) < 0 else timer.seconds
            self._keep(replace(timer, seconds=base + seconds))

    def stop(self, timer_id: str) -> float | None:
        """Take a timer away, and return how long it ran."""
        timer = self._timers.get(timer_id)
        if timer is None:
            return None
        gone = timer.gone_s(self.clock())
        self._change(lambda timers: timers.pop(timer_id, None))
        return gone

    def clear(self) -> None:
        """Take all timers away."""
        self._change(lambda timers: timers.clear())

    def _keep(self, timer: Timer) -> Timer:
        def put(timers: dict[str, Timer]) -> None:
            timers.pop(timer.id, None)
            while len(timers) >= MOST:
                del timers[next(iter(timers))]
            timers[timer.id] = timer

        self._change(put)
        return timer

    def _change(self, change: Callable[[dict[str, Timer]], object]) -> None:
        """Change what is in the file now, which another window may have changed too."""
        with held(self.path.with_suffix(".lock")):
            timers = {one.id: one for one in _read(self.path)} if self.path.exists() else dict(self._timers)
            change(timers)
            self._timers = timers
            write_whole(self.path, json.dumps([asdict(timer) for timer in timers.values()]).encode())


def _read(path: Path) -> Sequence[Timer]:
    """Return the timers of a file; one that can't be read is as if there was none."""
    try:
        rows = read_json(read_file(path, MOST_BYTES), path.name, most_values=MOST_BYTES)
        return [
            Timer(
                str(row["id"]),
                str(row["name"]),
                float(row["seconds"]),
                float(row["over_s"]),
                Moment(**row["since"]) if row["since"] else None,
            )
            for row in rows[:MOST]
        ]
    except (OSError, ValueError, KeyError, TypeError, ZinnetError):
        return []

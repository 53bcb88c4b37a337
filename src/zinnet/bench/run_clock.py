"""How long a run takes by the clock of the bench: begun, at each card, paused, away."""

from collections.abc import Sequence
from dataclasses import asdict, dataclass
from typing import Any

from zinnet.bench.timers import Moment, Timer


@dataclass
class RunClock:
    """The time of a run. ``since`` is when the card became due that is due, ``paused_s`` how long it paused since.

    ``stopped`` is when the pause began that lasts, or the time away; None while the run goes on.
    """

    began: Moment | None = None
    since: Moment | None = None
    paused_s: float = 0.0
    all_paused_s: float = 0.0
    stopped: Moment | None = None
    ended: Moment | None = None

    @property
    def stands(self) -> bool:
        """Whether the run is paused."""
        return self.stopped is not None

    def start(self, now: Moment) -> None:
        """Begin, where it is not begun."""
        if self.began is None:
            self.began = self.since = now

    def stop(self, now: Moment) -> None:
        """Begin a pause, where none lasts."""
        if self.began is not None and self.stopped is None:
            self.stopped = now

    def go_on(self, now: Moment) -> None:
        """End the pause that lasts."""
        if self.stopped is not None:
            self._idle(self.stopped.until(now))
            self.stopped = None

    def was_away(self, since: Moment, now: Moment, timers: Sequence[Timer]) -> None:
        """Count the time as a pause in which nobody was at the bench; while a timer ran the run went on by itself."""
        away = max(0.0, since.until(now))
        rang = min((-timer.left_s(now) for timer in timers if timer.since is not None), default=away)
        self._idle(min(away, max(0.0, rang)))

    def _idle(self, seconds: float) -> None:
        self.paused_s += max(0.0, seconds)
        self.all_paused_s += max(0.0, seconds)

    def spent_s(self, now: Moment) -> float:
        """Return how long the card is due, without pauses."""
        if self.since is None:
            return 0.0
        until = now if self.stopped is None else self.stopped
        return max(0.0, self.since.until(until) - self.paused_s)

    def lap(self, now: Moment) -> float:
        """Return how long the card that was due took, and begin with the next."""
        self.start(now)
        self.go_on(now)
        spent = self.spent_s(now)
        self.since, self.paused_s = now, 0.0
        return spent

    def elapsed_s(self, now: Moment) -> float:
        """Return how long the run took until now, without pauses."""
        if self.began is None:
            return 0.0
        until = self.ended or self.stopped or now
        return max(0.0, self.began.until(until) - self.all_paused_s)

    def row(self) -> dict[str, Any]:
        """Return it as a row for the journal."""
        return asdict(self)

    @classmethod
    def of(cls, row: dict[str, Any]) -> "RunClock":
        """Return it from a row of the journal. Raises what a broken row raises."""
        moments = {
            name: None if row.get(name) is None else Moment(**row[name])
            for name in ("began", "since", "stopped", "ended")
        }
        return cls(paused_s=float(row["paused_s"]), all_paused_s=float(row["all_paused_s"]), **moments)

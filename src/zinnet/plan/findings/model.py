"""What a finding is: what was measured, the limit, the place, and what mends it."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from zinnet.job.edits import Edit
from zinnet.plan.findings.kinds import catalogue
from zinnet.plan.findings.levels import Level, Station


@dataclass(frozen=True)
class Place:
    """Where a finding is: a box (left, top, right, bottom) in mm on a panel of a size, or on a mat."""

    view: Station
    box: tuple[float, float, float, float]
    mat: int | None = None
    panel: str | None = None
    size: str | None = None
    design: int = 0


@dataclass(frozen=True)
class Finding:
    """One finding: what was measured, what the limit is and whose limit it is."""

    id: str
    level: Level
    title: str
    measured: str
    limit: str
    place: Place | None = None
    mend: Edit | None = None
    passed: str | None = None
    subject: str | None = None
    also: tuple[Edit, ...] = ()
    """Other ways to mend it."""
    count: int = 1
    """At how many places it is."""
    more: Callable[[], Iterable[Edit]] | None = None
    """Further ways, which take long to work out."""
    about: str | None = None
    """What tells it apart from others of its kind where that has no subject: it stays the same when numbers change."""
    least: Callable[[], float] | None = None
    """How narrow, in mm, the narrowest of its places is; that takes long to measure."""

    @property
    def station(self) -> Station:
        """The station at which it is mended."""
        return catalogue()[self.id].station

    @property
    def is_open_stop(self) -> bool:
        """Whether nothing may be cut because of it."""
        return self.level == "stop" and self.passed is None

    @property
    def may_have_mends(self) -> bool:
        """Whether there is anything that may mend it."""
        return bool(self.mend or self.also or self.more)

    @property
    def at_once(self) -> tuple[Edit, ...]:
        """What may mend it, as far as that is known without a long look."""
        return self.also if self.mend is None else (self.mend, *self.also)

    @cached_property
    def mends(self) -> tuple[Edit, ...]:
        """All that may mend it, in the order of trust."""
        return self.at_once if self.more is None else (*self.at_once, *self.more())

    @property
    def do(self) -> str:
        """What a person can do where no mend is offered."""
        return catalogue()[self.id].do

    @property
    def text(self) -> str:
        """What was found, in one sentence."""
        return f"{self.title}: {self.measured} ({self.limit})"

    def to_json(self) -> dict[str, Any]:
        """Return the finding as it stands in ``findings.json``, with the mends that are known without a long look."""
        return {
            "id": self.id,
            "level": self.level,
            "station": self.station,
            "subject": self.subject,
            "text": self.text,
            "title": self.title,
            "measured": self.measured,
            "limit": self.limit,
            "do": self.do,
            "mend": self.mend.name if self.mend else None,
            "mends": [{"number": number, "label": edit.name} for number, edit in enumerate(self.at_once, start=1)],
            "passed": self.passed,
        }


def found(
    finding_id: str,
    measured: str,
    limit: str,
    *,
    level: Level | None = None,
    place: Place | None = None,
    mend: Edit | None = None,
    subject: str | None = None,
    also: tuple[Edit, ...] = (),
    count: int = 1,
    more: Callable[[], Iterable[Edit]] | None = None,
    about: str | None = None,
    least: Callable[[], float] | None = None,
) -> Finding:
    """Return a finding of the catalogue; ``level`` is given where it is not the usual one.

    ``subject`` is what it is about, where passing it for one thing must not pass it for another; ``also`` and ``more``
    are further ways to mend it, the second ones dear; ``count`` is at how many places it is. ``about`` is
    what it is about where passing it passes all of its kind, ``least`` measures its narrowest place.
    """
    kind = catalogue()[finding_id]
    first, rest = (mend, also) if mend is not None else (next(iter(also), None), also[1:])
    return Finding(
        id=finding_id,
        level=level or kind.level,
        title=kind.title,
        measured=measured,
        limit=limit,
        place=place,
        mend=first,
        subject=subject,
        also=rest,
        count=count,
        more=more,
        about=about,
        least=least,
    )

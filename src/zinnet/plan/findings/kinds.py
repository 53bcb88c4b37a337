"""The catalogue of findings: what each kind is called, how grave it is, and where it is mended."""

from functools import cache

from zinnet.base.frozen import Frozen
from zinnet.data import read_toml
from zinnet.plan.findings.levels import Level, Station


class FindingKind(Frozen):
    """A finding as the catalogue describes it."""

    level: Level
    station: Station
    title: str
    when: str
    do: str
    """What a person can do where no mend is offered."""


@cache
def catalogue() -> dict[str, FindingKind]:
    """Return every kind of finding by its id."""
    return {name: FindingKind.model_validate(row) for name, row in read_toml("findings").items()}

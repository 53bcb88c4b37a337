"""The journal of a mat that is being cut: which lines are done, of which job and day, in the state folder.

It outlives the program and the machine. The same lines may come again for another job or on another day, on other film:
then nobody but the user knows whether the journal is about the film that is on the mat now.
"""

import datetime
import functools
import hashlib
import json
from dataclasses import dataclass
from pathlib import Path
from typing import NamedTuple

import platformdirs

from zinnet.base.errors import CutError, ZinnetError
from zinnet.base.files import read_file, write_whole
from zinnet.base.json_file import read_json
from zinnet.job.model import Job
from zinnet.plan.loading import LoadedMat

UNREADABLE = "It was begun before, but its journal can't be read: nobody knows which of its lines are cut."
MOST_BYTES = 10_000_000
MOST_VALUES = 400_000
SAME_JOB = {"title", "blank", "designs", "family", "names", "copies", "order"}
"""What makes a job another one; how it is cut, pressed and paid does not."""


class JournalError(CutError):
    """A journal that can't be kept."""


class Mark(NamedTuple):
    """Whose a journal is: the job by a digest and by its title, and the day."""

    job: str
    title: str
    day: str


@dataclass(frozen=True)
class Broken:
    """How far a mat got: the lines that are cut, and those of which nobody knows.

    ``of`` says of which job and day it is, where that is not the one at hand: then nobody knows whether it is about the
    film that is on the mat.
    """

    done: tuple[str, ...]
    doubtful: tuple[str, ...]
    of: str = ""

    @property
    def is_readable(self) -> bool:
        """Whether it says at all which lines are cut."""
        return bool(self.done or self.doubtful)

    def is_whole(self, load: LoadedMat) -> bool:
        """Tell whether all of a mat is cut, on this film."""
        return (
            not self.of and not self.doubtful and {block.path.name for block in load.program().blocks} <= {*self.done}
        )


def mark_of(job: Job, day: datetime.date | None = None) -> Mark:
    """Return whose the journal of a job is that is cut on a day, today by default."""
    return Mark(_digest(job), job.title, (day or datetime.date.today()).isoformat())


@functools.lru_cache(maxsize=4)
def _digest(job: Job) -> str:
    return hashlib.sha256(job.model_dump_json(include=SAME_JOB).encode()).hexdigest()[:32]


def journal_of(load: LoadedMat) -> Path:
    """Return where the journal of a mat lies; another nest or other lines have another one."""
    return platformdirs.user_state_path("zinnet") / "cutting" / f"{load.lines_key()}.json"


def keep_journal(load: LoadedMat, mark: Mark, broken: Broken) -> None:
    """Keep how far a mat got. Raises :class:`JournalError` where it can't be written."""
    data = {**mark._asdict(), "done": broken.done, "doubtful": broken.doubtful, "sum": _sum(broken)}
    try:
        write_whole(journal_of(load), json.dumps(data).encode(), error=JournalError)
    except JournalError as error:
        raise JournalError(
            f"The journal of the cut can't be kept ({error}) Without it nobody knows after a break which lines are cut."
        ) from None


def read_journal(load: LoadedMat, mark: Mark) -> Broken | None:
    """Return how far a mat got; None where it was never begun.

    Of one that can't be read nobody knows what is cut: that is one of another day.
    """
    if not journal_of(load).exists():
        return None
    try:
        data = read_json(
            read_file(journal_of(load), MOST_BYTES), "The journal", most_values=MOST_VALUES, error=JournalError
        )
        done, doubtful = (tuple(str(name) for name in data[key]) for key in ("done", "doubtful"))
        whose = Mark(*(str(data.get(name, "")) for name in Mark._fields))
        if data["sum"] != _sum(Broken(done, doubtful)):
            raise JournalError("The journal is damaged.")
    except (ZinnetError, KeyError, TypeError, AttributeError):
        return Broken((), (), "a cut that nobody knows any more")
    if not done and not doubtful:
        return None
    return Broken(done, doubtful, "" if (whose.job, whose.day) == (mark.job, mark.day) else _whose(whose))


def _sum(broken: Broken) -> str:
    """Return a digest of the lines, by which damage shows."""
    return hashlib.sha256(json.dumps([broken.done, broken.doubtful]).encode()).hexdigest()[:16]


def _whose(mark: Mark) -> str:
    title = f"“{mark.title}”" if mark.title else "a job that is not named"
    return f"{title}, {mark.day}" if mark.day else title


def refuse_unreadable(load: LoadedMat, found: Broken) -> None:
    """Raise :class:`CutError` where nobody knows which lines of a mat are cut."""
    if not found.is_readable:
        raise CutError(f"Mat {load.numbers}: {UNREADABLE} Lay other film on it, and say so.")


def forget_journal(load: LoadedMat) -> None:
    """Forget how far a mat got: other film is on it."""
    journal_of(load).unlink(missing_ok=True)


def adopt_journal(load: LoadedMat, mark: Mark) -> None:
    """Take a journal for that of the job at hand: the very film that it is about is still on the mat.

    Raises :class:`CutError` where it can't be read: then the film is no good any more.
    """
    found = read_journal(load, mark)
    if found is not None:
        refuse_unreadable(load, found)
        keep_journal(load, mark, Broken(found.done, found.doubtful))

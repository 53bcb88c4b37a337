"""What an edit is: it makes a new job from an old one and has the name that the undo menu shows."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from pydantic import ValidationError

from zinnet.base.errors import SettingsError, ZinnetError
from zinnet.base.words import LEAST_LETTERS, has_words
from zinnet.job.model import Job


@dataclass(frozen=True)
class Edit:
    """A named change. Edits that follow one another with the same ``merge`` are undone as one.

    One that is ``local`` changes nothing but outlines, and those only where a film can't hold them.
    """

    name: str
    make: Callable[[Job], Job]
    merge: str = ""
    local: bool = False

    def change(self, job: Job) -> Job:
        """Return the changed job. Raises :class:`ZinnetError` where a value can't be."""
        try:
            return self.make(job)
        except ValidationError as error:
            first = error.errors()[0]
            where = " ".join(str(part) for part in first["loc"]).replace("_mm", "").replace("_", " ")
            raise ZinnetError(f"That can't be: {where}: {first['msg'].lower()}; choose another value.") from None


def one_step(name: str, edits: Sequence[Edit], merge: str = "") -> Edit:
    """Return several edits as one, made in their order."""

    def change(job: Job) -> Job:
        for edit in edits:
            job = edit.change(job)
        return job

    return Edit(name, change, merge)


def refuse_wordless(reason: str) -> None:
    """Raise :class:`SettingsError` where a reason does not say anything."""
    if not has_words(reason):
        raise SettingsError(f"A reason has words, at least {LEAST_LETTERS} letters; say why.")

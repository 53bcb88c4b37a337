"""The errors that a person may read: each says what was wrong, where, and what to do."""

import re

ENDLESS = re.compile(r"\S{400,}")
SHOWN = 60


class ZinnetError(Exception):
    """Something that the user can mend; the message is one clear sentence, words without end in it cut short."""

    def __init__(self, sentence: str = "", *more: object) -> None:
        super().__init__(ENDLESS.sub(lambda word: f"{word[0][:SHOWN]}...", str(sentence)), *more)


class UnitsError(ZinnetError):
    """A length that can't be read."""


class ArtworkError(ZinnetError):
    """Artwork that can't be read or holds nothing to cut."""


class BlankError(ZinnetError):
    """Measures of a blank that are unknown, impossible or contradict each other."""


class JobFileError(ZinnetError):
    """A job file that can't be read or written."""


class NestError(ZinnetError):
    """Pieces, sheets or a nest that can't be used."""


class CutError(ZinnetError):
    """Cut files that may not or can't be written."""


class SettingsError(ZinnetError):
    """Settings that can't be read, written or believed."""


class WorkshopError(ZinnetError):
    """The workshop's file can't be read or written."""

"""Designs that begin in the window: a text, or what an assistant makes."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtGui import QColor

from zinnet.base.errors import ArtworkError

if TYPE_CHECKING:
    from zinnet.artwork.source import OutlinedNameArt, Source, TextArt, WordThroughArt
    from zinnet.ui.session import Session

PALE = 0.55
PALE_INK, DARK_INK = "#f4ead5", "#1a1a1a"


def new_text(session: "Session", words: str = "Wrenfield") -> "TextArt":
    """Return a text in a colour that is seen on the blank. Raises :class:`ZinnetError` where it is too long."""
    from zinnet.artwork.lettering.text import MOST_LETTERS, TextSpec
    from zinnet.artwork.source import TextArt

    dark = QColor(session.plan.blank.colour).lightnessF() < PALE
    if len(words) > MOST_LETTERS:
        raise ArtworkError(f"A text has at most {MOST_LETTERS} letters, this one has {len(words)}; copy less of it.")
    return TextArt(text=TextSpec(text=words, font="dancing-script", colour=PALE_INK if dark else DARK_INK))


def new_name() -> "OutlinedNameArt":
    """Return an outlined name to begin with."""
    from zinnet.artwork.lettering.outlined_name import OutlinedNameSpec
    from zinnet.artwork.source import OutlinedNameArt

    return OutlinedNameArt(name=OutlinedNameSpec())


def new_word() -> "WordThroughArt":
    """Return a word through a shape to begin with."""
    from zinnet.artwork.lettering.word_through import WordThroughSpec
    from zinnet.artwork.source import WordThroughArt

    return WordThroughArt(word=WordThroughSpec())


def put_on_table(session: "Session", source: "Source", then: Callable[[], None]) -> None:
    """Put a text or an assistant's design on the table, beside what is there; ``then`` follows."""
    from zinnet.artwork.source import source_name
    from zinnet.plan.room import added

    def show() -> None:
        session.selection.look_at(design=len(session.job.designs) - 1)
        then()

    session.apply_later(added(session.workshop, source_name(source), source), show)

"""Words of strangers shown as they are: names from files never become markup, which could open files by itself."""

import html
from collections.abc import Iterable
from typing import NamedTuple

from PySide6.QtCore import Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QLabel, QSizePolicy, QWidget

from zinnet.ui.theme import theme


class Paragraph(NamedTuple):
    """A paragraph with a head in bold, where it has one."""

    text: str
    head: str = ""
    is_quiet: bool = False


class Label(QLabel):
    """A label that shows its text letter by letter, whatever is in it."""

    def __init__(self, text: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)

    def show_paragraphs(self, paragraphs: Iterable[Paragraph]) -> None:
        """Show paragraphs, all words of them letter by letter."""
        self.setTextFormat(Qt.TextFormat.RichText)
        self.setText("".join(map(_markup, paragraphs)))


class Wrapped(Label):
    """A label of several lines that is always as high as its text, however narrow its page is."""

    def __init__(self) -> None:
        super().__init__()
        self.setWordWrap(True)

    def setText(self, text: str) -> None:
        """Show a text."""
        super().setText(text)
        self._grow()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Be as high as the text is at this width."""
        super().resizeEvent(event)
        self._grow()

    def _grow(self) -> None:
        self.setMinimumHeight(self.heightForWidth(self.width()) if self.text() else 0)


class Elided(Label):
    """A label as wide as there is room: what does not fit ends in dots, and is all in the tooltip."""

    def __init__(self) -> None:
        super().__init__()
        self.whole = ""
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)

    def show_whole(self, text: str) -> None:
        """Show a text, as much of it as fits."""
        self.whole = text
        self.setToolTip(plain(text))
        self.setAccessibleDescription(text)
        self._fit()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Show as much as fits now."""
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        self.setText(self.fontMetrics().elidedText(self.whole, Qt.TextElideMode.ElideRight, self.width()))


def _markup(paragraph: Paragraph) -> str:
    head = f"<b>{html.escape(paragraph.head)}</b> " if paragraph.head else ""
    style = "margin:0 0 7px 0" + (f"; color:{theme().quiet_ink}" if paragraph.is_quiet else "")
    return f'<p style="{style}">{head}{html.escape(paragraph.text)}</p>'


def plain(text: str) -> str:
    """Return text for a tooltip or a question, which is shown letter by letter also where it looks like markup."""
    return f"<p>{html.escape(text)}</p>" if "<" in text or "&lt;" in text else text

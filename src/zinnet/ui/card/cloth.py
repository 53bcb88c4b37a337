"""The colour of cloth, chosen by a swatch and a word."""

from collections.abc import Callable

from PySide6.QtGui import QColor, QIcon, QPainter, QPixmap
from PySide6.QtWidgets import QColorDialog, QComboBox, QInputDialog

from zinnet.ui.language import tr
from zinnet.ui.plain import plain
from zinnet.ui.theme import colour as ink

SWATCH_PX = 14
OTHER = "other"

type Cloth = tuple[str, str]
"""A colour as ``#rrggbb``, and what it is called."""


def swatch(colour: str) -> QIcon:
    """Return a small picture of a colour."""
    picture = QPixmap(SWATCH_PX, SWATCH_PX)
    with QPainter(picture) as painter:
        painter.setPen(ink("card_line"))
        painter.setBrush(QColor(colour))
        painter.drawRect(0, 0, SWATCH_PX - 1, SWATCH_PX - 1)
    return QIcon(picture)


class ClothBox(QComboBox):
    """The colours of cloth by name; the last entry asks for any other one."""

    def __init__(self, take: Callable[[Cloth], None], name: str) -> None:
        super().__init__()
        self._take = take
        self._shown: Cloth | None = None
        self.setAccessibleName(tr(name))
        self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.setMinimumContentsLength(9)
        self.activated.connect(self._choose)

    def show_cloth(self, colour: str, name: str) -> None:
        """Show a colour; one without a name is called by the nearest that has one."""
        from zinnet.blanks.cloth_colours import cloth_colours, colour_called

        cloth = (colour, name or colour_called(colour))
        if cloth == self._shown:
            return
        self._shown = cloth
        known = {(value, called) for called, value in cloth_colours().items()}
        self.clear()
        if cloth not in known:
            self._add(*cloth)
        for called, value in cloth_colours().items():
            self._add(value, called)
        self.insertSeparator(self.count())
        self.addItem(tr("Another colour ..."), OTHER)
        self.setCurrentIndex(next(k for k in range(self.count()) if self.itemData(k) == list(cloth)))
        self.setToolTip(plain(f"The colour of the cloth: {cloth[1]} ({colour})"))

    @property
    def cloth(self) -> Cloth:
        """The colour that is shown."""
        assert self._shown is not None
        return self._shown

    def _add(self, colour: str, name: str) -> None:
        self.addItem(swatch(colour), name, [colour, name])

    def _choose(self, index: int) -> None:
        data = self.itemData(index)
        cloth = self._ask() if data == OTHER else (data[0], data[1])
        before, self._shown = self.cloth, None
        self.show_cloth(*(cloth or before))
        if cloth is not None and cloth != before:
            self._take(cloth)

    def _ask(self) -> Cloth | None:
        """Ask for any colour, and what it is called."""
        from zinnet.blanks.cloth_colours import colour_called

        chosen = QColorDialog.getColor(QColor(self.cloth[0]), self, tr("Colour of the cloth"))
        if not chosen.isValid():
            return None
        suggested = colour_called(chosen.name())
        name, given = QInputDialog.getText(
            self, tr("Colour of the cloth"), tr("What is this colour called?"), text=suggested
        )
        return (chosen.name(), name.strip()[:60] or suggested) if given else None

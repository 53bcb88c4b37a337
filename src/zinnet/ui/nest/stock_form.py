"""The form of one roll, some sheets or a scrap: to add, or to correct with a reason."""

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QFormLayout,
    QLineEdit,
    QPushButton,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from zinnet.base.errors import ZinnetError
from zinnet.base.units import read_length, write_length
from zinnet.bench.from_strangers import area_apart
from zinnet.geometry.transform import moved, shift
from zinnet.nesting.from_svg import scrap_of
from zinnet.ui.film_picker import FilmButton
from zinnet.ui.language import tr
from zinnet.ui.plain import Label
from zinnet.workshop.stock import StockItem, stock_item

if TYPE_CHECKING:
    from zinnet.geometry.region import Region
    from zinnet.ui.session import Session

SVG_FILTER = "Outline (*.svg)"


class StockForm(QDialog):
    """Asks for film; :attr:`item` is what was typed once it can be."""

    def __init__(self, parent: QWidget, session: "Session", before: StockItem | None) -> None:
        super().__init__(parent)
        self.session, self.before, self.item = session, before, before
        self.setWindowTitle("Add film" if before is None else f"Correct {before.number}")
        self.outline: Region | None = None if before is None else before.outline
        self.spoiled: Region | None = None if before is None else before.spoiled
        self._corner = (0.0, 0.0)
        self.form = QFormLayout()
        self.film = FilmButton(session, tr("Which film it is"))
        self.film.show_film(session.workshop.films[0])
        self.film.clicked.connect(self.choose_film)
        self.kind = QComboBox()
        for kind in ("roll", "sheet", "scrap"):
            self.kind.addItem(kind)
        self.across, self.length, self.price = QLineEdit(), QLineEdit(), QLineEdit()
        self.place, self.note, self.reason = QLineEdit(), QLineEdit(), QLineEdit()
        self.count = QSpinBox()
        self.count.setRange(1, 10_000)
        self.turned = QCheckBox(tr("Nap or pattern runs across its length"))
        self.load = QPushButton(tr("Outline from SVG ..."))
        self.load.setToolTip(tr("What is painted in the file is film, x along its length"))
        self.load.clicked.connect(self.choose_outline)
        self.spots = QPushButton(tr("Spoiled spots from SVG ..."))
        self.spots.setToolTip(tr("What is painted in the file is no good, x along the film's length"))
        self.spots.clicked.connect(self.choose_spoiled)
        self.price.setPlaceholderText(tr("for a square metre, in your money"))
        self.reason.setPlaceholderText(tr("counted anew"))
        self.said = Label()
        self.said.setWordWrap(True)
        rows: list[tuple[str, QWidget]] = [
            ("Film", self.film),
            ("What", self.kind),
            ("Width, across", self.across),
            ("Length", self.length),
            ("How many", self.count),
            ("", self.turned),
            ("", self.load),
            ("", self.spots),
            ("Price", self.price),
            ("Place", self.place),
            ("Note", self.note),
        ]
        if before is not None:
            rows.append(("Why", self.reason))
        for name, widget in rows:
            widget.setAccessibleName(name or widget.objectName())
            self.form.addRow(name, widget)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.addLayout(self.form)
        column.addWidget(self.said)
        column.addWidget(buttons)
        self.setMinimumWidth(420)
        if before is not None:
            self._show(before)

    def _show(self, item: StockItem) -> None:
        unit = self.session.job.unit
        known = {film.id: film for film in self.session.workshop.films}
        self.film.show_film(known.get(item.film, self.session.workshop.films[0]))
        self.kind.setCurrentText(item.kind)
        self.kind.setEnabled(False)
        self.across.setText(write_length(item.width_mm, unit=unit))
        self.length.setText(write_length(item.length_mm, unit=unit))
        self.count.setValue(item.count)
        self.turned.setChecked(item.turned)
        self.price.setText("" if item.price_m2 is None else f"{item.price_m2:g}")
        self.place.setText(item.place)
        self.note.setText(item.note)

    def choose_film(self) -> None:
        """Ask which film it is."""
        taken = self.film.ask()
        if taken is not None:
            self.film.show_film(self.session.workshop.film(taken))

    @property
    def why(self) -> str:
        """Why it is corrected."""
        return self.reason.text().strip() or self.reason.placeholderText()

    def choose_outline(self) -> None:
        """Ask for the outline of a scrap."""
        name, _ = QFileDialog.getOpenFileName(self, "The outline of the film", "", SVG_FILTER)
        if name:
            self.take_outline(Path(name))

    def take_outline(self, path: Path) -> None:
        """Take a scrap's outline from a file, which is read beside the window."""
        self._read(path, self._set_outline)

    def _read(self, path: Path, take: Callable[["Region", Path], None]) -> None:
        self.said.setText(f"{path.name} is being read ...")
        background = self.session.background
        background.run(lambda: area_apart(path), lambda region: take(region, path), self.said.setText)

    def _set_outline(self, region: "Region", path: Path) -> None:
        sheet, self._corner = scrap_of(region, "", margin_mm=0.0)
        self.outline, unit = sheet.outline, self.session.job.unit
        self.kind.setCurrentText("scrap")
        self.across.setText(write_length(sheet.height_mm, unit=unit))
        self.length.setText(write_length(sheet.width_mm, unit=unit))
        self.said.setText(f"The outline is from {path.name}.")

    def choose_spoiled(self) -> None:
        """Ask for the spoiled spots."""
        name, _ = QFileDialog.getOpenFileName(self, "The spoiled spots", "", SVG_FILTER)
        if name:
            self.take_spoiled(Path(name))

    def take_spoiled(self, path: Path) -> None:
        """Take spoiled spots from a file, in the coordinates of the outline's file; it is read beside the window."""
        self._read(path, self._set_spoiled)

    def _set_spoiled(self, spots: "Region", path: Path) -> None:
        self.spoiled = moved(spots, shift(-self._corner[0], -self._corner[1]))
        self.said.setText(f"{len(self.spoiled.geoms)} spoiled spots are from {path.name}.")

    def accept(self) -> None:
        """Take what was typed, or say what is wrong with it."""
        try:
            self.item = self.read()
        except ZinnetError as error:
            self.said.setText(str(error))
            return
        super().accept()

    def read(self) -> StockItem:
        """Return what was typed. Raises :class:`ZinnetError` where it can't be."""
        unit = self.session.job.unit
        kind = self.kind.currentText()
        return stock_item(
            {
                "number": 0 if self.before is None else self.before.number,
                "film": self.film.value,
                "kind": kind,
                "width_mm": read_length(self.across.text(), unit=unit),
                "length_mm": read_length(self.length.text(), unit=unit),
                "outline": self.outline if kind == "scrap" else None,
                "spoiled": self.spoiled,
                "count": self.count.value(),
                "turned": self.turned.isChecked(),
                "price_m2": self._price(),
                "place": self.place.text().strip(),
                "note": self.note.text().strip(),
            }
        )

    def _price(self) -> float | None:
        text = self.price.text().strip().replace(",", ".")
        if not text:
            return None
        try:
            return float(text)
        except ValueError:
            raise ZinnetError(f"The price “{text}” is no number; type it like 24.50.") from None

"""What the forms for things of one's own share: named rows, a line for what is wrong, and keeping what was typed."""

from collections.abc import Callable, Mapping

from PySide6.QtWidgets import QComboBox, QDialog, QDialogButtonBox, QFormLayout, QLineEdit, QWidget

from zinnet.base.errors import ZinnetError
from zinnet.base.units import Unit, read_length
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.theme import colour

WIDEST = 520


class OwnForm(QDialog):
    """A form that keeps a thing of one's own; what makes no sense is said, and the form stays."""

    def __init__(self, parent: QWidget, title: str, note: str, unit: Unit) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr(title))
        self.setMinimumWidth(WIDEST)
        self.unit = unit
        self.kept: str | None = None
        self.form = QFormLayout(self)
        self.form.setVerticalSpacing(8)
        said = Label(tr(note))
        said.setWordWrap(True)
        said.setProperty("quiet", True)
        self.form.addRow(said)
        self.name = self.line("Name", "What it is called", "")

    def finish(self) -> None:
        """Add what is wrong and the buttons, below the rows."""
        self.wrong = Label()
        self.wrong.setWordWrap(True)
        self.wrong.setAccessibleName(tr("What is wrong"))
        self.wrong.setStyleSheet(f"QLabel {{ color: {colour('stop').name()}; }}")
        self.wrong.hide()
        self.form.addRow(self.wrong)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        self.keep = buttons.addButton(tr("Keep it"), QDialogButtonBox.ButtonRole.AcceptRole)
        self.keep.setProperty("strong", True)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        self.form.addRow(buttons)

    def line(self, name: str, tip: str, text: str) -> QLineEdit:
        """Add a line to type in."""
        field = QLineEdit(text)
        field.setAccessibleName(tr(name))
        field.setToolTip(plain(tr(tip)))
        field.setPlaceholderText(tr(tip))
        self.form.addRow(tr(name), field)
        return field

    def choice(
        self, name: str, tip: str, rows: Mapping[str, str], chosen: Callable[[], None] | None = None
    ) -> QComboBox:
        """Add a box to choose from, by what is kept of each choice and what it is called."""
        combo = QComboBox()
        combo.setAccessibleName(tr(name))
        combo.setToolTip(plain(tr(tip)))
        for value, said in rows.items():
            combo.addItem(said, value)
        if chosen is not None:
            combo.currentIndexChanged.connect(lambda index: chosen())
        self.form.addRow(tr(name), combo)
        return combo

    def length(self, field: QLineEdit) -> float | None:
        """Return a length that was typed, in mm, None where nothing was."""
        text = field.text().strip()
        return read_length(text, unit=self.unit) if text else None

    def keep_it(self) -> str:
        """Keep what was typed and return its id; raises :class:`ZinnetError` where it makes no sense."""
        raise NotImplementedError

    def accept(self) -> None:
        """Keep what was typed; where it makes no sense, say what is wrong and stay."""
        try:
            self.kept = self.keep_it()
        except ZinnetError as error:
            self.say_wrong(str(error))
            return
        super().accept()

    def say_wrong(self, said: str) -> None:
        """Say what is wrong, above the buttons."""
        self.wrong.setText(said)
        self.wrong.show()

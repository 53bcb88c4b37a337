"""The form that asks for a sheet of labels, and how many of it are used up."""

from PySide6.QtWidgets import QComboBox, QDialog, QDialogButtonBox, QFormLayout, QSpinBox, QWidget

from zinnet.base.words import source_said
from zinnet.output.papers.labels import label_sheets
from zinnet.ui.language import tr
from zinnet.ui.plain import Label


class LabelForm(QDialog):
    """Which sheet of labels is in the printer."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Sheet of labels"))
        self.sheet = QComboBox()
        self.sheet.setAccessibleName(tr("Sheet of labels"))
        for name, kind in label_sheets().items():
            wide, high = kind.label
            self.sheet.addItem(f"{kind.columns} x {kind.rows} labels of {wide:g} x {high:g} mm, {kind.paper}", name)
        self.used = QSpinBox()
        self.used.setAccessibleName(tr("Labels used up"))
        self.note = Label()
        self.note.setWordWrap(True)
        self.note.setProperty("quiet", True)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        form = QFormLayout(self)
        form.addRow("&Sheet", self.sheet)
        form.addRow("&Used up already", self.used)
        form.addRow(self.note)
        form.addRow(buttons)
        self.sheet.currentIndexChanged.connect(lambda index: self._follow())
        self._follow()

    def _follow(self) -> None:
        kind = label_sheets()[self.sheet.currentData()]
        self.used.setRange(0, kind.count - 1)
        self.note.setText(source_said(kind.source))

    @property
    def labels(self) -> tuple[str, int]:
        """The sheet's name, and how many of its labels are used up."""
        return self.sheet.currentData(), self.used.value()

    @classmethod
    def ask(cls, parent: QWidget) -> tuple[str, int] | None:
        """Return what the user chose, or None."""
        form = cls(parent)
        return form.labels if form.exec() else None

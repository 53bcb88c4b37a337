"""The sheet of Split: how the colours are split."""

from PySide6.QtWidgets import QCheckBox, QComboBox

from zinnet.edits import join_outlines, set_layers
from zinnet.ui.session import Session
from zinnet.ui.sheets.base import PropertySheet


class LayersSheet(PropertySheet):
    """How the colours are split."""

    def __init__(self, session: Session) -> None:
        super().__init__(session, "Layers")
        self.method = QComboBox()
        self.method.setAccessibleName("How films lie")
        self.method.setToolTip("Films side by side, or the lower films going on under the upper ones")
        self.method.addItem("cut away, side by side", "cut-away")
        self.method.addItem("stacked", "stack")
        self.method.activated.connect(
            lambda: session.apply(set_layers("choose the method", method=self.method.currentData()))
        )
        self.join = QCheckBox("Join crossing outlines of a colour")
        self.join.setToolTip("Shapes of one colour that overlap are cut as one")
        self.join.toggled.connect(self._join)
        self.add_row("Films lie", self.method)
        self.form.addRow(self.join)
        self.note = self.add_note()

    def follow(self) -> None:
        """Show the split."""
        spec = self.session.job.layers
        self.method.setCurrentIndex(self.method.findData(spec.method))
        self.join.blockSignals(True)
        self.join.setChecked(spec.join_outlines)
        self.join.blockSignals(False)
        self.note.setText("Which side is cut is derived from each film and from how it is seen.")

    def _join(self, join: bool) -> None:
        self.session.apply(join_outlines(join))

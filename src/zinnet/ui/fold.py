"""A line that unfolds what is seldom wanted."""

from PySide6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from zinnet.ui.language import tr
from zinnet.ui.plain import plain


class Fold(QWidget):
    """Widgets below a line that shows and hides them; folded at first."""

    def __init__(self, name: str, tip: str, *widgets: QWidget) -> None:
        super().__init__()
        self._name, self._widgets = tr(name), widgets
        self.line = QPushButton()
        self.line.setProperty("line", True)
        self.line.setToolTip(plain(tr(tip)))
        self.line.clicked.connect(lambda: self.unfold(not self.is_open))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        for widget in (self.line, *widgets):
            column.addWidget(widget)
        self.unfold(False)

    @property
    def is_open(self) -> bool:
        """Whether what is below the line is shown."""
        return not self._widgets[0].isHidden()

    def unfold(self, is_open: bool) -> None:
        """Show what is below the line, or hide it."""
        for widget in self._widgets:
            widget.setVisible(is_open)
        self.line.setText(f"{'▾' if is_open else '▸'}  {self._name}")

"""Numbers of a plan that is being worked out anew are drawn faintly: they are those of the job before the last edit."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtWidgets import QGraphicsOpacityEffect, QWidget

if TYPE_CHECKING:
    from zinnet.ui.session import Session

AFTER_MS = 60
"""What is worked out sooner than this is not dimmed at all: it would only flicker."""
FAINT = 0.45


class Dimmed(QObject):
    """Draws widgets faintly as long as the plan is behind the job."""

    changed = Signal(bool)
    """Whether they are drawn faintly now."""

    def __init__(self, session: "Session", widgets: Sequence[QWidget], parent: QObject) -> None:
        super().__init__(parent)
        self._session = session
        self._effects = []
        for widget in widgets:
            effect = QGraphicsOpacityEffect(widget)
            effect.setOpacity(FAINT)
            effect.setEnabled(False)
            widget.setGraphicsEffect(effect)
            self._effects.append(effect)
        self._timer = QTimer(self, singleShot=True, interval=AFTER_MS)
        self._timer.timeout.connect(lambda: self._dim(self._session.is_working))
        session.busy_changed.connect(self._follow)

    @property
    def is_dim(self) -> bool:
        """Whether they are drawn faintly."""
        return any(effect.isEnabled() for effect in self._effects)

    def _follow(self) -> None:
        if not self._session.is_working:
            self._timer.stop()
            self._dim(False)
        elif not self._timer.isActive():
            self._timer.start()

    def _dim(self, dim: bool) -> None:
        if dim != self.is_dim:
            for effect in self._effects:
                effect.setEnabled(dim)
            self.changed.emit(dim)

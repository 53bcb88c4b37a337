"""What follows the plan, one thing at a time."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject
from shiboken6 import isValid

if TYPE_CHECKING:
    from zinnet.ui.session import Session


class InTurn(QObject):
    """Follows the plan for a widget, in a turn of the loop of its own: a hand may come between two."""

    def __init__(self, session: "Session", follow: Callable[[], object], widget: QObject) -> None:
        super().__init__(widget)
        self._session, self._follow = session, follow
        session.plan_changed.connect(self.ask)

    def ask(self) -> None:
        """Follow the plan soon; at once where every edit is waited for."""
        if self._session.beside:
            self._session.background.turns.do(self.follow)
        else:
            self._follow()

    def follow(self) -> None:
        """Follow the plan, if the widget is still there."""
        if isValid(self):
            with self._session.kept_stages():
                self._follow()

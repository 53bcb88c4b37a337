"""One thing that a page shows and that takes long: worked out beside the window, the newest that was asked for."""

from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject

from zinnet.base.errors import ZinnetError

if TYPE_CHECKING:
    from zinnet.ui.session import Session


class Aside(QObject):
    """Works something out of the plan beside the window; what is asked for again and known already is not done anew."""

    def __init__(self, session: "Session", parent: QObject) -> None:
        super().__init__(parent)
        self._session = session
        self._asked: object = None
        self.is_waiting = False

    def ask[Made](self, about: Any, work: Callable[[], Made], show: Callable[[Made], None]) -> None:
        """Work something out that is about an object, such as a plan; ``show`` follows, unless more is asked."""
        if about is self._asked:
            return
        self._asked, self.is_waiting = about, True

        def take(made: Made) -> None:
            if about is self._asked:
                self.is_waiting = False
                show(made)

        def refuse(why: str) -> None:
            if about is self._asked:
                self.is_waiting = False
                self._session.said.emit(why)

        if self._session.beside:
            self._session.background.run(work, take, refuse)
            return
        try:
            with self._session.kept_stages():
                made = work()
        except ZinnetError as error:
            refuse(str(error))
        else:
            take(made)

    def forget(self) -> None:
        """Show nothing of what was asked for."""
        self._asked, self.is_waiting = None, False

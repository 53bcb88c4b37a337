"""The workshop's books as the window uses them: read and written beside it, their content taken into use after."""

from collections.abc import Callable
from functools import cached_property
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, Signal

if TYPE_CHECKING:
    from zinnet.ui.background import Background
    from zinnet.workshop.stock import Stock
    from zinnet.workshop.store import WorkshopStore


class Books(QObject):
    """The workshop's file. A demo has books of its own; every other job has the user's."""

    read = Signal(object)
    refused = Signal(str)

    def __init__(self, background: "Background", parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._background = background
        self._store: WorkshopStore | None = None

    @cached_property
    def own(self) -> "WorkshopStore":
        """The user's own file."""
        from zinnet.workshop.store import WorkshopStore

        return WorkshopStore()

    @property
    def store(self) -> "WorkshopStore":
        """The file that is in use."""
        return self._store or self.own

    def use[T](self, action: Callable[["WorkshopStore"], T], then: Callable[[T], None] | None = None) -> None:
        """Do something with the workshop's file beside the window, then take what it holds into use; ``then`` follows.

        Where another file has come into use meanwhile, what this one holds stays out of the window.
        """
        store = self.store

        def work() -> tuple[T, dict[str, Any]]:
            from zinnet.workshop.opening import books_of

            return action(store), books_of(store)

        def take(result: tuple[T, dict[str, Any]]) -> None:
            if store is self.store:
                self.read.emit(result[1])
            if then is not None:
                then(result[0])

        self._background.run(work, take, self.refused.emit, books=True)

    def use_shelf[T](self, action: Callable[["Stock"], T], then: Callable[[T], None] | None = None) -> None:
        """Do something with the shelf beside the window, and take what is on it then into use; ``then`` follows."""
        from zinnet.workshop.stock import Stock

        self.use(lambda store: action(Stock(store)), then)

    def open(self, store: "WorkshopStore | None" = None) -> None:
        """Keep the books in another workshop file, such as a demo's; without one, in the user's own."""
        store = store or self.own
        if store is not self.store:
            self._store = store
            self.use(lambda _: None)

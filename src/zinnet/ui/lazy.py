"""Widgets that are made when they are first asked for."""

from collections.abc import Callable, Iterator, Mapping

from PySide6.QtWidgets import QWidget


class LazyWidgets[Shown: QWidget](Mapping[str, Shown]):
    """Named widgets, each made when it is first asked for, then put where it belongs."""

    def __init__(self, put: Callable[[Shown], object], makers: Mapping[str, Callable[[], Shown]]) -> None:
        self._put, self._makers = put, dict(makers)
        self._made: dict[str, Shown] = {}

    @property
    def made(self) -> tuple[Shown, ...]:
        """Those that were made already."""
        return tuple(self._made.values())

    def __getitem__(self, name: str) -> Shown:
        if name not in self._made:
            made = self._makers[name]()
            self._put(made)
            self._made[name] = made
        return self._made[name]

    def __contains__(self, name: object) -> bool:
        return name in self._makers

    def __iter__(self) -> Iterator[str]:
        return iter(self._makers)

    def __len__(self) -> int:
        return len(self._makers)

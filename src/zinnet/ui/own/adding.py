"""Adding a press, a machine or a film of one's own in the window, and taking it into use."""

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog, QWidget

from zinnet.base.errors import ZinnetError
from zinnet.ui.language import tr

if TYPE_CHECKING:
    from zinnet.ui.own.form import OwnForm
    from zinnet.ui.session import Session


class OwnThings:
    """Asks for things of one's own, keeps them, and takes them into use in the open job."""

    def __init__(self, window: QWidget, session: "Session") -> None:
        self._window, self._session = window, session

    def new_press(self) -> None:
        """Ask for a press, and press the job with it."""
        from zinnet.job.edits import choose_platen
        from zinnet.ui.own.press_form import PressForm

        kept = self._ask(PressForm(self._window, self._session.job.unit))
        if kept is not None:
            self._session.apply(choose_platen(kept))

    def new_machine(self) -> None:
        """Ask for a cutting machine, and cut the job with it."""
        from zinnet.job.edits import set_cutting
        from zinnet.ui.own.machine_form import MachineForm

        kept = self._ask(MachineForm(self._window, self._session.job.unit))
        if kept is not None:
            self._session.apply(set_cutting("machine", machine=kept, knife_offset_mm=None, overcut_mm=None))

    def new_film(self) -> None:
        """Ask for a film."""
        from zinnet.ui.own.film_form import FilmForm

        self._ask(FilmForm(self._window, self._session.job.unit))

    def choose_export(self) -> None:
        """Ask for a folder, and write everything of one's own into it."""
        from zinnet.workshop.own_files import write_own

        name = QFileDialog.getExistingDirectory(self._window, tr("Write films, presses and machines of my own"))
        if name:
            self._try(lambda: f"Written into {name}: {', '.join(path.name for path in write_own(Path(name)))}.")

    def choose_import(self) -> None:
        """Ask for a file of things of one's own."""
        name, _ = QFileDialog.getOpenFileName(
            self._window, tr("Read films, presses or machines"), "", "Films, presses, machines (*.toml)"
        )
        if name:
            self.take(Path(name))

    def take(self, path: Path) -> None:
        """Take the films, presses and machines of a file besides those that are here."""
        from zinnet.workshop.own_files import take_own

        def taken() -> str:
            found = take_own(path)
            self._session.read_settings()
            return f"Taken from {path.name}: {', '.join(one for ids in found.values() for one in ids)}."

        self._try(taken)

    def _try(self, do: Callable[[], str]) -> None:
        try:
            self._session.said.emit(do())
        except ZinnetError as error:
            self._session.said.emit(str(error))

    def _ask(self, form: "OwnForm") -> str | None:
        """Show a form; return the id of what was kept, which is in the workshop then, or None."""
        accepted = form.exec()
        form.deleteLater()
        if not accepted or form.kept is None:
            return None
        self._session.read_settings()
        self._session.said.emit(f"{form.name.text().strip()} is yours from now on.")
        return form.kept

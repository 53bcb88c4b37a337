"""Adding a press, a machine or a film of one's own in the window, and taking it into use."""

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QWidget

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

    def _ask(self, form: "OwnForm") -> str | None:
        """Show a form; return the id of what was kept, which is in the workshop then, or None."""
        accepted = form.exec()
        form.deleteLater()
        if not accepted or form.kept is None:
            return None
        self._session.read_settings()
        self._session.said.emit(f"{form.name.text().strip()} is yours from now on.")
        return form.kept

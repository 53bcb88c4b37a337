"""What the user prefers, whatever job is open: lengths, the theme, the size of type, a finger's breadth."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QInputDialog, QWidget

from zinnet.base.errors import ZinnetError
from zinnet.ui.theme import DAYLIGHT, NIGHT, theme, use_theme
from zinnet.ui.type_size import KEY, remembered_percent

if TYPE_CHECKING:
    from zinnet.ui.session import Session


class Preferences:
    """Asks for them, and remembers them."""

    def __init__(self, window: QWidget, session: "Session", settings: QSettings, restyle: Callable[[], None]) -> None:
        self._window, self._session, self._settings, self._restyle = window, session, settings, restyle

    def toggle_unit(self) -> None:
        """Show lengths in inches, or in mm again."""
        from zinnet.job.edits import set_unit

        self._session.apply(set_unit("mm" if self._session.job.unit == "in" else "in"))

    def toggle_theme(self) -> None:
        """Go from night to daylight and back."""
        chosen = NIGHT if theme() is DAYLIGHT else DAYLIGHT
        use_theme(chosen)
        self._settings.setValue("theme", chosen.name)
        self._restyle()

    @property
    def type_percent(self) -> int:
        """How large type is from the next start on, in per cent."""
        return remembered_percent(self._settings)

    def take_type_percent(self, percent: int) -> None:
        """Keep how large type is to be, and say when it will be."""
        self._settings.setValue(KEY, percent)
        self._session.said.emit(f"Type is shown at {percent} % when Zinnet is started again.")

    def choose_finger(self) -> None:
        """Ask for the breadth of the user's own finger."""
        from zinnet.base.units import write_length

        habits, unit = self._session.workshop.habits, self._session.job.unit
        text, given = QInputDialog.getText(
            self._window,
            "Your finger's breadth",
            "Lay four fingers on a rule and divide by four:",
            text=write_length(habits.finger_mm, unit=unit),
        )
        if given:
            self.take_finger(text)

    def take_finger(self, text: str) -> None:
        """Take a typed finger's breadth into use."""
        from zinnet.base.units import read_length, write_length

        session = self._session
        try:
            mm = read_length(text, unit=session.job.unit)
        except ZinnetError as error:
            session.said.emit(str(error))
            return
        if session.take_habits(session.workshop.habits.model_copy(update={"finger_mm": mm})):
            session.said.emit(f"A finger is {write_length(mm, unit=session.job.unit)} from now on; methods follow.")

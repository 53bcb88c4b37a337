"""How one likes the bench of the press: the tone that rings, whether cards are spoken, and who stands there."""

from PySide6.QtCore import QSettings

from zinnet.ui.press import sound, voice

SOUND, SPOKEN, WHO = "bench/sound", "bench/spoken", "bench/who"


class BenchHabits:
    """Kept in the settings of the window."""

    def __init__(self, settings: QSettings) -> None:
        self._settings = settings

    @property
    def tone(self) -> str:
        """What rings."""
        kept = str(self._settings.value(SOUND, sound.USUAL))
        return kept if kept in sound.TONES else sound.USUAL

    @tone.setter
    def tone(self, tone: str) -> None:
        self._settings.setValue(SOUND, tone)

    @property
    def is_spoken(self) -> bool:
        """Whether cards are spoken, where the system has a voice."""
        return self._settings.value(SPOKEN, "no") == "yes"

    @is_spoken.setter
    def is_spoken(self, spoken: bool) -> None:
        self._settings.setValue(SPOKEN, "yes" if spoken else "no")

    @property
    def who(self) -> str:
        """Who stands at the bench; the log says it of each run."""
        return str(self._settings.value(WHO, ""))

    @who.setter
    def who(self, name: str) -> None:
        self._settings.setValue(WHO, name.strip())

    def ring(self) -> None:
        """Ring by the tone that was chosen."""
        sound.ring(self.tone)

    def say(self, text: str) -> None:
        """Say something, where cards are spoken."""
        if self.is_spoken:
            voice.say(text)

"""What the user decides about cutting: the machine, its knife, what is cut besides, and what was looked at."""

from pydantic import Field

from zinnet.base.frozen import Frozen
from zinnet.cutting.settings import CutSettings

USUAL_NAMES = "mat-{mat}-{film}"
MOST_MATS = 2000


class FilmSettings(Frozen):
    """The user's own settings for a film of this job."""

    film: str
    settings: CutSettings


class CutSpec(Frozen):
    """How the job is cut.

    ``machine`` is proposed from the mat where it is None, knife and overcut are the machine's own then. ``names`` is
    the template of file names: ``{job}``, ``{mat}`` and ``{film}`` stand for what they say. ``loaded`` names the mats
    whose loading the user said yes to, ``confirmed`` the other findings that were looked at, each by its subject.
    """

    machine: str | None = None
    knife_offset_mm: float | None = Field(default=None, ge=0, le=5)
    overcut_mm: float | None = Field(default=None, ge=0, le=20)
    weed_lines: bool = False
    names: str = Field(default=USUAL_NAMES, min_length=1, max_length=120)
    bleed_mm: float | None = Field(default=None, ge=0, le=20)
    blade_first: bool = False
    settings: tuple[FilmSettings, ...] = Field(default=(), max_length=500)
    loaded: tuple[str, ...] = Field(default=(), max_length=MOST_MATS)
    confirmed: tuple[str, ...] = Field(default=(), max_length=MOST_MATS)

    def settings_of(self, film: str) -> CutSettings | None:
        """Return the user's own settings for a film."""
        return next((one.settings for one in self.settings if one.film == film), None)

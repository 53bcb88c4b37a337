"""The dry fit of one side of a garment, held against its cloth: what is asked before anything is pressed."""

from dataclasses import dataclass

from zinnet.blanks.cloth_colours import colour_called
from zinnet.data.limits import limits
from zinnet.films.colours import colour_difference
from zinnet.plan.presses import GarmentPress
from zinnet.pressing.dry_fit import DryFit, DryPiece, dry_fit
from zinnet.pressing.pieces import PanelWork


@dataclass(frozen=True, eq=False)
class LaidOut:
    """All film of one side, laid out on its cloth. ``like_cloth`` has the cloth's own colour."""

    works: tuple[PanelWork, ...]
    fit: DryFit
    cloth: str
    like_cloth: tuple[DryPiece, ...]

    @property
    def asked(self) -> tuple[str, ...]:
        """What is asked of whoever looks at it."""
        found = ["All here?", "Test cut off? Frame off? No loose bits on any carrier?"]
        films = dict.fromkeys(one.piece.film.name for one in self.like_cloth)
        if films:
            names = " and ".join(films)
            found.append(f"{names} on {self.cloth} cloth: hold it there. Is its outline seen, is it the right film?")
        return tuple(found)


def laid_out(press: GarmentPress, panel: str) -> LaidOut:
    """Return the dry fit of a side of a garment."""
    works = tuple(work for work in press.works if work.panel.id == panel)
    fit, cloth = dry_fit(works), press.garment.blank.colour
    most = float(limits()["colour"]["same_as_blank_delta_e"])
    like = tuple(one for one in fit.pieces if colour_difference(one.piece.film.colour, cloth) < most)
    return LaidOut(works, fit, colour_called(cloth), like)

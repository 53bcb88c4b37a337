"""How deep the stand-in's blade goes into its made-up film: from force, blade, its age, speed and passes."""

from dataclasses import dataclass

from zinnet.cutting.settings import CutSettings, Outcome
from zinnet.data import read_toml
from zinnet.films.catalogue import FilmKind


@dataclass(frozen=True)
class LoadedFilm:
    """What lies on the stand-in's mat: thickness of film and carrier in micrometres, grams for each micrometre."""

    thickness_um: float
    carrier_um: float
    hardness: float


def loaded_film(kind: FilmKind, kind_name: str, *, harder: float = 1.0, thicker: float = 1.0) -> LoadedFilm:
    """Return a film of a kind, by factors ``harder`` and ``thicker`` than the usual one."""
    rules = read_toml("cutting")["stand_in"]
    hardness = rules["hardness"].get(kind_name, rules["hardness"]["smooth"])
    return LoadedFilm(max(kind.thickness_um, 1.0) * thicker, rules["carrier_um"], hardness * harder)


def depth_um(film: LoadedFilm, settings: CutSettings, blade_m: float) -> float:
    """Return how deep the cut is: force against hardness, no deeper than the blade is let out.

    A blade loses half its sharpness in its half life; speed takes a little, another pass adds a share.

    Parameters
    ----------
    film : LoadedFilm
        Its hardness and thickness.
    settings : CutSettings
        Force in g, speed in mm/s, passes, and how far the blade is let out in mm.
    blade_m : float, metres
        What the blade has cut.

    Returns
    -------
    float, micrometres
        From the film's face down.
    """
    rules = read_toml("cutting")["stand_in"]
    sharp = 0.5 ** (blade_m / rules["blade_half_m"])
    slow = 1 / (1 + settings.speed_mm_s / rules["speed_blunt_mm_s"])
    passes = 1 + rules["pass_gain"] * (settings.passes - 1)
    return float(min(settings.force_g * sharp * slow * passes / film.hardness, settings.blade_mm * 1000))


def outcome_of(film: LoadedFilm, depth: float) -> Outcome:
    """Return how a cut of a depth weeds."""
    rules = read_toml("cutting")["stand_in"]
    if depth < rules["tears_share"] * film.thickness_um:
        return "not through"
    if depth < film.thickness_um:
        return "tears"
    if depth <= film.thickness_um + rules["clean_share"] * film.carrier_um:
        return "clean"
    if depth <= film.thickness_um + rules["marked_share"] * film.carrier_um:
        return "carrier marked"
    return "carrier cut through"

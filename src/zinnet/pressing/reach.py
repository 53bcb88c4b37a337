"""Which source of heat gets to an object, and why another one does not."""

from zinnet.blanks.fabrics import fabric_of
from zinnet.blanks.model import Blank
from zinnet.machines.platens import HeatSource, Platen, Presses

ROUNDING_MM = 0.05


def is_heated(blank: Blank) -> bool:
    """Tell whether anything hot is ever laid on an object."""
    fabric = fabric_of(blank.fabric)
    return bool(blank.procedure.sources) and (fabric is None or fabric.is_heated)


def why_not(platen: Platen, blank: Blank) -> str | None:
    """Return why a platen does not get to an object, None where it does.

    Parameters
    ----------
    platen : Platen, mm
        With its kind and its size.
    blank : Blank
        With its procedure; a recess is as large as its main panel.

    Returns
    -------
    str or None
        In words, to follow the platen's name.
    """
    procedure = blank.procedure
    if platen.heat_source not in procedure.sources:
        bends = not procedure.flat or platen.heat_source in ("cap", "round")
        return f"does not follow the {procedure.noun}" if bends else f"is not for a {procedure.noun}"
    if procedure.recess:
        left, top, right, bottom = blank.main.region.bounds
        short, long = sorted((right - left, bottom - top))
        low, high = sorted((platen.width_mm, platen.height_mm))
        if low > short + ROUNDING_MM or high > long + ROUNDING_MM:
            return (
                f"of {platen.width_mm:.0f} x {platen.height_mm:.0f} mm does not go into the recess of "
                f"{right - left:.0f} x {bottom - top:.0f} mm"
            )
    return None


def reaching(presses: Presses, blank: Blank, usual: str | None = None) -> tuple[tuple[str, Platen], ...]:
    """Return the platens that get to an object with their ids, the one to take first.

    The user's own come first; then the ``usual`` one, then those of the usual source of heat, the largest first.
    """
    sources: tuple[HeatSource, ...] = blank.procedure.sources
    found = [(name, one) for name, one in presses.platens if why_not(one, blank) is None]
    return tuple(
        sorted(
            found,
            key=lambda row: (
                not row[1].own,
                row[0] != usual and not row[1].own,
                sources.index(row[1].heat_source),
                -row[1].width_mm * row[1].height_mm,
            ),
        )
    )

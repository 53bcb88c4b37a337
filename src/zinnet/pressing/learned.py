"""What the log of pressing teaches: the heat and the time that held here, and what did not."""

from collections.abc import Sequence

from zinnet.blanks.fabrics import Fabric
from zinnet.films.catalogue import Film
from zinnet.machines.platens import HeatSource
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.recipes import Pressed, Recipe

SCHOOL = "what held here"


def learned(
    log: Sequence[Pressed],
    film: Film,
    fabric: Fabric | None,
    heat_source: HeatSource,
    known: Sequence[Recipe] = (),
) -> Recipe | None:
    """Return what the log teaches of a film on a fabric by a source of heat; None where that is too little.

    Held is what worked, with the seconds that were added where film lifted with its carrier. Longer than what lifted or
    came off, also in the wash, has to be what is taken. The log of the very film counts first, then that of its kind.

    Parameters
    ----------
    log : presses
        The earliest first.
    film : Film
        What is pressed.
    fabric : Fabric or None
        On what.
    heat_source : HeatSource
        By what it is pressed.
    known : recipes
        The one by which it was pressed last says the rest: back, pressure, peel; else the first of them.

    Returns
    -------
    Recipe or None
        With what it was learned from as its source.
    """
    if fabric is None:
        return None
    here = [
        one
        for one in log
        if (one.fabric, one.heat_source) == (fabric.name, heat_source)
        and one.heat_c is not None
        and one.seconds is not None
    ]
    of_film = [one for one in here if one.film == film.id]
    of_kind = [one for one in here if one.kind == film.kind]
    found = _from(of_film, film.name, known)
    return found if found is not None else _from(of_kind, f"{film.kind.replace('-', ' ')} film", known)


def _from(rows: Sequence[Pressed], name: str, known: Sequence[Recipe]) -> Recipe | None:
    numbers = press_numbers().learned
    short = [one.seconds or 0.0 if one.worked else _seconds(one) for one in rows if one.lifted or not one.worked]
    least = max(short, default=0.0)
    held = [one for one in rows if one.worked and _seconds(one) > least]
    if len(held) < numbers.least_presses:
        return None
    held = held[-numbers.most_presses :]
    heats, times = [one.heat_c or 0.0 for one in held], [_seconds(one) for one in held]
    if max(heats) - min(heats) > numbers.most_span_c:
        latest = held[-1].heat_c or 0.0
        held = [one for one in held if abs((one.heat_c or 0.0) - latest) <= numbers.most_span_c / 2]
        heats, times = [one.heat_c or 0.0 for one in held], [_seconds(one) for one in held]
        if len(held) < numbers.least_presses:
            return None
    by = next((one for one in known if one.school == held[-1].school), known[0] if known else Recipe(school=SCHOOL))
    return by.model_copy(
        update={
            "school": SCHOOL,
            "heat_c": (min(heats), max(heats)),
            "seconds": (min(times), max(times)),
            "seconds_said": None,
            "setting": None,
            "by_sheet": False,
            "origin": "learned",
            "source": _said(rows, held, name),
        }
    )


def _seconds(one: Pressed) -> float:
    """Return how long film was at heat until it held."""
    return (one.seconds or 0.0) + one.more_s


def _said(rows: Sequence[Pressed], held: Sequence[Pressed], name: str) -> str:
    """Return in words what it was learned from."""
    parts = [f"learned from {len(rows)} presses of {name}", f"{len(held)} held at {_span([_seconds(o) for o in held])}"]
    lifted = [one.seconds or 0.0 for one in rows if one.lifted]
    lost = [one for one in rows if not one.worked]
    parts += [f"{len(lifted)} lifted at {_span(lifted)}"] if lifted else []
    parts += [f"{len(lost)} lost at {_span([_seconds(one) for one in lost])}"] if lost else []
    washes = max((one.washes for one in held), default=0)
    parts += [f"up to {washes} washes survived"] if washes else []
    parts += [f"last on {held[-1].at[:10]}"] if held[-1].at else []
    return ", ".join(parts)


def _span(seconds: Sequence[float]) -> str:
    low, high = min(seconds), max(seconds)
    return f"{low:.0f} s" if low == high else f"{low:.0f} to {high:.0f} s"

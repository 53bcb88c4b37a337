"""The steps of what is not pressed on as film: adhesive film, and prints that go into the surface."""

from collections.abc import Iterator

import shapely

from zinnet.base.units import Degrees, write_temperature
from zinnet.blanks.model import KeepOut
from zinnet.geometry.region import as_region
from zinnet.machines.platens import Platen
from zinnet.pressing.heat_steps import NOT_SLID
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.pieces import PanelWork
from zinnet.pressing.press_area import Spread
from zinnet.pressing.steps import Heat, PressStep

APART_MM = 0.02
"""So far apart the sides of a frame are taken, so that each stays a part of its own."""


def glue_steps(work: PanelWork) -> Iterator[PressStep]:
    """Yield the steps of adhesive film: it is never heated. Through glass the front colour is laid first."""
    hands, panel = press_numbers().hands, work.panel.id
    glass = work.panel.seen == "through-glass"
    noun = work.procedure.noun
    side = f"back of the {noun}" if glass else noun
    yield PressStep(
        "clean",
        f"Clean the {side}",
        (
            "Wipe it with alcohol and a cloth that leaves no lint; let it dry; do not touch it again.",
            *(work.procedure.centre if work.is_centred else work.procedure.aside),
            "Adhesive film is PVC: it is never heated.",
        ),
        panel,
        hands.clean_s,
        "hands",
        caution="Alcohol burns: no flame near it, and fresh air. Its label comes first.",
        wrong="Grease and dust keep the glue from holding.",
    )
    for index, piece in enumerate(work.pieces):
        keys = (piece.key,)
        yield PressStep(
            "tape",
            f"Transfer sheet on {piece.name}",
            ("Lay the transfer sheet from the middle outward.", "Burnish, turn it over, peel the backing off flat."),
            panel,
            hands.tape_s,
            "hands",
            keys,
        )
        if work.spec.method == "wet":
            lines = (
                "Spray water with a drop of soap on the surface.",
                "Lay the film, move it where it belongs, and wipe the water out from the middle.",
            )
        else:
            lines = (
                "Tape it in place along one edge as a hinge; fold it back, take the backing off.",
                "Lay it down from the hinge, without tension.",
            )
        order = " The front colour goes first: it is seen through the glass." if glass and not index else ""
        on = " Its edges meet the film that is there." if index else ""
        yield PressStep(
            "lay",
            f"Lay {piece.name}",
            (*lines, f"Measure before it touches.{order}{on}"),
            panel,
            hands.lay_s,
            "hands",
            keys,
            wrong="Glue that touched does not come off whole.",
        )
        yield PressStep(
            "burnish",
            f"Burnish {piece.name}",
            ("Rub from the middle outward, edges last.", "Peel the transfer sheet back flat on itself, slowly."),
            panel,
            hands.burnish_s,
            "hands",
            keys,
            lifts="Lay the sheet back and burnish that spot again.",
        )


def print_steps(work: PanelWork, degrees: Degrees) -> Iterator[PressStep]:
    """Yield the steps of prints that go into the surface: fixed face down, under butcher paper."""
    numbers, panel = press_numbers(), work.panel.id
    yield PressStep(
        "lint",
        f"Clean the {work.procedure.noun}",
        ("Take dust and lint off; every speck becomes a dot.", *work.procedure.hold, *work.procedure.clear),
        panel,
        numbers.hands.lint_s,
        "hands",
    )
    for piece in work.pieces:
        keys, setting = (piece.key,), piece.setting
        yield PressStep(
            "fix",
            f"Fix {piece.name}",
            (
                *(work.procedure.centre if work.is_centred else work.procedure.aside),
                "Ink down, with heat-proof tape: it must not move.",
                "Butcher paper over it and under it, for what blows out.",
            ),
            panel,
            numbers.hands.fix_s,
            "hands",
            keys,
            wrong="A print that moves gives a second, pale picture.",
        )
        heat_c = None if setting is None else setting.heat_c
        seconds = None if setting is None else setting.full_s
        said = "The heat on its sheet" if heat_c is None else write_temperature(heat_c, degrees=degrees)
        time = "the time on its sheet" if seconds is None else f"{seconds:.0f} s"
        spread = Spread(
            films=(piece.region,),
            platen=_within_frame(work),
            keep_outs=(*work.panel.keep_outs, *_frame(work)),
            overlap_mm=0.0,
            lying=(),
            turns=work.procedure.recess,
        )
        pressure = setting.pressure if setting is not None else None
        chosen = work.platen.setting_for(heat_c) if work.platen is not None and heat_c is not None else None
        heat = Heat("full", heat_c, seconds, pressure, spread, setting=chosen)
        yield PressStep(
            "press",
            f"Press {piece.name}",
            (f"{said}{'' if chosen is None else f', the {chosen} setting'}, {time}, firm and even.", NOT_SLID),
            panel,
            0.0,
            "press",
            keys,
            heat=heat,
            carried=keys,
            cover="butcher paper",
            caution="Ink turns to vapour: fresh air.",
        )
        yield PressStep(
            "cool",
            "Let it cool",
            ("Lift the paper off in one go, straight up.", "It is hot for long: do not touch the surface."),
            panel,
            numbers.waits.cool[1],
            "cooling",
            keys,
        )


def _within_frame(work: PanelWork) -> Platen | None:
    """Return the platen of a panel; in a recess it reaches the rim only with its own edge, so that it has no margin."""
    if work.platen is None or not work.procedure.recess:
        return work.platen
    return work.platen.model_copy(update={"margin_mm": 0.0})


def _frame(work: PanelWork) -> tuple[KeepOut, ...]:
    """Return the frame about a recess, which stands higher than what is pressed: its four sides, which do not touch."""
    if work.platen is None or not work.procedure.recess:
        return ()
    left, top, right, bottom = work.panel.region.bounds
    far = work.platen.width_mm + work.platen.height_mm
    sides = (
        (left - far, top - far, left, bottom + far),
        (right, top - far, right + far, bottom + far),
        (left + APART_MM, top - far, right - APART_MM, top),
        (left + APART_MM, bottom, right - APART_MM, bottom + far),
    )
    return tuple(KeepOut("other", as_region(shapely.box(*side))) for side in sides)

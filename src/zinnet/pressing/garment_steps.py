"""The steps of a whole garment: its label, the press, every panel in turn, and what follows."""

from collections.abc import Iterator, Sequence

from zinnet.base.units import Degrees, write_temperature
from zinnet.pressing.adhesive_steps import glue_steps, print_steps
from zinnet.pressing.heat_steps import PanelSteps
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.pieces import PanelWork
from zinnet.pressing.steps import PressStep

HOT = (
    "Hot platen and base: burns. Gloves, a heat-proof mat, fresh air, nothing left switched on alone; a child only "
    "with an adult. The press's manual, labels and local rules come first."
)
CARE = (
    "Wash inside out, cold or gentle, in a bag; hang it to dry.",
    "Follow the film's and the garment's label, whichever is gentler.",
)

HOURS = "The hours are typical, from memory."


def garment_steps(panels: Sequence[PanelWork], *, label_read: bool, degrees: Degrees) -> tuple[PressStep, ...]:
    """Return the steps of one garment in their order."""
    return tuple(_steps(panels, label_read, degrees))


def _steps(panels: Sequence[PanelWork], label_read: bool, degrees: Degrees) -> Iterator[PressStep]:
    hot = [work for work in panels if _is_hot(work)]
    cloth = [work for work in hot if _is_cloth(work)]
    if cloth and not label_read:
        yield PressStep(
            "label",
            "Read the care label",
            ("Fabric, and dots in the iron: 110, 150 or 200 °C at most (ISO 3758).", "Enter them at Measure."),
            None,
            press_numbers().hands.look_s,
            "hands",
            once=True,
        )
    if hot:
        yield _heat_up(hot, degrees)
    for work in panels:
        bond = work.pieces[0].kind.bond
        if bond == "glue":
            yield from glue_steps(work)
        elif bond == "print":
            yield from print_steps(work, degrees)
        else:
            yield from PanelSteps(work, degrees).steps()
    if panels:
        yield PressStep("care", "Say how to care for it", (*care_lines(panels), HOURS), None, 0.0, "none")


def care_lines(panels: Sequence[PanelWork]) -> tuple[str, ...]:
    """Return what to tell whoever gets it."""
    hours = press_numbers().cure.hours
    if any(_is_hot(work) and _is_cloth(work) for work in panels):
        return (f"Wait {hours:g} hours before it is washed.", *CARE)
    return (f"Leave it alone for {hours:g} hours.", "Wash by hand only; keep it away from food.")


def _is_hot(work: PanelWork) -> bool:
    return any(piece.kind.bond != "glue" for piece in work.pieces)


def _is_cloth(work: PanelWork) -> bool:
    return work.fabric is None or work.fabric.cloth


def _heat_up(hot: Sequence[PanelWork], degrees: Degrees) -> PressStep:
    heats = [
        piece.setting.heat_c
        for work in hot
        for piece in work.pieces
        if piece.setting is not None and piece.setting.heat_c is not None
    ]
    known = (
        f"To {write_temperature(heats[0], degrees=degrees)}, and wait until it holds that."
        if heats
        else ("To what the film's sheet says.")
    )
    return PressStep(
        "heat up",
        "Heat the press",
        (
            known,
            "Look the carriers over, from the front and against the light: no test cut, frame, loose bit or counter.",
        ),
        None,
        press_numbers().change.settle_s,
        "none",
        caution=HOT,
        once=True,
    )

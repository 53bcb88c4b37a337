"""The steps of a whole object: what is done the day before, its label, the press, every panel in turn, what follows."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field

from zinnet.base.units import Degrees, write_temperature
from zinnet.blanks.fabrics import Fabric
from zinnet.blanks.procedures import MOMENTS, Moment, Procedure, ProcedureStep
from zinnet.films.catalogue import Bond
from zinnet.pressing.adhesive_steps import glue_steps, print_steps
from zinnet.pressing.dry_fit import film_counted
from zinnet.pressing.heat_steps import PanelSteps
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.pieces import PanelWork
from zinnet.pressing.steps import PressStep

HOT = (
    "Hot platen and base: burns. Gloves, a heat-proof mat, fresh air, nothing left switched on alone; a child only "
    "with an adult. The press's manual, labels and local rules come first."
)
HOURS = "The hours are typical, unsourced."


@dataclass(frozen=True)
class ObjectWork:
    """What is worked on: how its kind is worked on, its cloth, whether its care label was read.

    ``said`` fills in the measures that the procedure's words leave open; ``repeats`` tells whether a motif is repeated.
    """

    procedure: Procedure
    fabric: Fabric | None = None
    label_read: bool = False
    repeats: bool = False
    said: Mapping[str, str] = field(default_factory=dict)


def object_steps(panels: Sequence[PanelWork], work: ObjectWork, degrees: Degrees) -> tuple[PressStep, ...]:
    """Return the steps of one object in their order.

    Parameters
    ----------
    panels : panels with what lies on them
        In the order in which they are worked on.
    work : ObjectWork
        The object.
    degrees : 'C' or 'F'
        The scale of heat.

    Returns
    -------
    steps
        Those of the day before first; empty where nothing lies on it.
    """
    return tuple(_steps(panels, work, degrees)) if panels else ()


def _steps(panels: Sequence[PanelWork], work: ObjectWork, degrees: Degrees) -> Iterator[PressStep]:
    hot = [panel for panel in panels if panel.is_hot]
    bonds = list(dict.fromkeys(panel.bond for panel in panels))
    yield from _wash_first(work, hot)
    yield from _of(work, bonds, "day before")
    if hot and (work.fabric is None or work.fabric.cloth) and not work.label_read:
        yield PressStep(
            "label",
            "Read the care label",
            ("Fabric, and dots in the iron: 110, 150 or 200 °C at most (ISO 3758).", "Enter them at Measure."),
            None,
            press_numbers().hands.look_s,
            "hands",
            once=True,
        )
    yield from _of(work, bonds, "first")
    if hot:
        yield _heat_up(hot, degrees)
    fitted: set[str] = set()
    for panel in panels:
        if panel.panel.id not in fitted and panel.bond != "print":
            fitted.add(panel.panel.id)
            yield _dry_fit([one for one in panels if one.panel.id == panel.panel.id], work)
        if panel.bond == "glue":
            steps = glue_steps(panel)
        elif panel.bond == "print":
            steps = print_steps(panel, degrees)
        else:
            steps = PanelSteps(panel, degrees).steps()
        yield from _with_moments(steps, work, panel)
    yield from _of(work, bonds, "after")
    yield PressStep("care", "Say how to care for it", (*care_lines(panels, work.procedure), HOURS), None, 0.0, "none")


def _dry_fit(panels: Sequence[PanelWork], work: ObjectWork) -> PressStep:
    """Return the step that lays all film of a side out, before anything is done that can't be taken back."""
    side = f", {panels[0].panel.name.lower()}" if panels[0].among_others else ""
    return PressStep(
        "dry fit",
        f"Lay all its film out{side}",
        (
            f"{film_counted(panels)}. All here?",
            "Test cut off? Frame off? No loose bits on any carrier?",
            f"Lay it on one another on the {work.procedure.noun}, dry, and look at it from the front.",
        ),
        panels[0].panel.id,
        press_numbers().hands.dry_fit_s,
        "hands",
        tuple(piece.key for panel in panels for piece in panel.pieces),
        wrong="What was weeded away can be cut again now; once it is pressed it is missing.",
    )


def _of(work: ObjectWork, bonds: Sequence[Bond], moment: Moment, panel: str | None = None) -> Iterator[PressStep]:
    """Yield the procedure's steps of a moment that belong to what lies on the object."""
    for step in work.procedure.steps:
        if step.when == moment and step.with_ in (None, *bonds) and (work.repeats or not step.repeated):
            yield _said(step, work.said, panel)


def _said(step: ProcedureStep, said: Mapping[str, str], panel: str | None) -> PressStep:
    """Return a step of a procedure, its words filled in."""
    before = step.when == MOMENTS[0]
    return PressStep(
        "gate" if step.gate else "ready",
        step.title,
        tuple(line.format_map(said) for line in step.words),
        panel,
        0.0 if before else step.seconds,
        "none" if before else "hands",
        gate=step.gate,
        hours=step.hours,
        once=before or step.once,
        wrong=step.wrong,
        caution=step.caution,
    )


def _wash_first(work: ObjectWork, hot: Sequence[PanelWork]) -> Iterator[PressStep]:
    """Yield the step that washes cloth on whose finish film does not hold."""
    if work.fabric is None or work.fabric.wash_first is None or not hot:
        return
    first = work.fabric.wash_first
    yield PressStep(
        "gate",
        f"Wash the {work.procedure.noun}",
        (f"{first[0].upper()}{first[1:]}.", "Its label says how."),
        None,
        0.0,
        "none",
        gate=True,
        hours=press_numbers().wash.hours,
        once=True,
        wrong="Film on the finish of new cloth comes off in the first wash.",
    )


def _with_moments(steps: Iterator[PressStep], work: ObjectWork, panel: PanelWork) -> Iterator[PressStep]:
    """Yield the steps of a panel with what the procedure puts before the first heat and after the first peel."""
    steps = iter(steps)
    ready = list(_of(work, [panel.bond], "ready", panel.panel.id))
    after = list(_of(work, [panel.bond], "pressed", panel.panel.id))
    for step in steps:
        if ready and (step.heat is not None or step.kind in ("fix", "tape")):
            yield from ready
            ready = []
        yield step
        if after and step.kind in ("peel", "burnish"):
            yield from after
            after = []


def care_lines(panels: Sequence[PanelWork], procedure: Procedure) -> tuple[str, ...]:
    """Return what to tell whoever gets it."""
    hours = press_numbers().cure.hours
    if any(panel.is_hot and panel.is_cloth for panel in panels):
        return (f"Wait {hours:g} hours before it is washed.", *procedure.care)
    return (f"Leave it alone for {hours:g} hours.", *procedure.care)


def _heat_up(hot: Sequence[PanelWork], degrees: Degrees) -> PressStep:
    first = hot[0]
    heats = [
        piece.setting.heat_c
        for work in hot
        for piece in work.pieces
        if piece.setting is not None and piece.setting.heat_c is not None
    ]
    source = first.source_said
    setting = first.platen.setting_for(heats[0]) if heats and first.platen is not None else None
    if setting is not None:
        known = f"To its {setting} setting, about {write_temperature(heats[0], degrees=degrees)}; it has no exact heat."
    elif heats:
        known = f"To {write_temperature(heats[0], degrees=degrees)}, and wait until it holds that."
    else:
        known = "To what the film's sheet says."
    looked = "Look the carriers over, from the front and against the light: no test cut, frame, loose bit or counter."
    return PressStep(
        "heat up",
        f"Heat the {source}",
        (known, looked) if any(work.bond == "heat" for work in hot) else (known,),
        None,
        press_numbers().change.settle_s,
        "none",
        caution=HOT,
        once=True,
    )

"""Edits of what a design is: its source, how it is made, and the steps that are done to it."""

from typing import Any

from zinnet.artwork.lettering.runs import carried_over
from zinnet.artwork.source import ArtworkFile, FileArt, PictureArt, Source, TextArt
from zinnet.base.frozen import with_fields
from zinnet.job.edits.designs import with_design
from zinnet.job.edits.edit import Edit
from zinnet.job.model import Design, Job
from zinnet.placement.place import PlacementSpec
from zinnet.steps.model import Step, step_name


def add_source(name: str, source: Source, place: str | None = None) -> Edit:
    """Add a design that comes from a source; the first one gives the job its name."""

    def change(job: Job) -> Job:
        made = Design(source=source, placement=PlacementSpec(place=place))
        title = name if job.title == "Untitled" else job.title
        return with_fields(job, title=title, designs=(*job.designs, made))

    return Edit(f"add {name}", change)


def set_source(name: str, source: Source, design: int = 0, merge: str = "") -> Edit:
    """Change where a design comes from; its steps and its place stay."""
    return with_design(name, design, lambda one: with_fields(one, source=source), merge)


def set_recipe(name: str, part: str, design: int = 0, merge: str = "", **fields: Any) -> Edit:
    """Change some fields of how a design is made: ``part`` is ``trace``, ``text``, ``word`` or ``name``."""

    def change(one: Design) -> Design:
        recipe = with_fields(getattr(one.source, part), **fields)
        return with_fields(one, source=with_fields(one.source, **{part: recipe}))

    return with_design(name, design, change, merge)


def retype(words: str, design: int = 0, merge: str = "") -> Edit:
    """Type other words into a text; letters that stay keep the font of their own."""

    def change(one: Design) -> Design:
        if not isinstance(one.source, TextArt):
            return one
        spec = one.source.text
        runs = carried_over(spec.text, words, spec.runs)
        return with_fields(one, source=with_fields(one.source, text=with_fields(spec, text=words, runs=runs)))

    return with_design("text", design, change, merge)


def flatten_blends(colours: int, design: int = 0) -> Edit:
    """Flatten every blend of a drawing to so many colours."""

    def change(one: Design) -> Design:
        if not isinstance(one.source, FileArt):
            return one
        return with_fields(one, source=with_fields(one.source, blend_colours=colours))

    return with_design(f"flatten blends to {colours} colours", design, change)


def open_outlines_as_lines(design: int = 0) -> Edit:
    """Take outlines that do not close as lines, not as filled shapes."""
    return _read_otherwise("use as lines", design, open_as_lines=True)


def take_in_whole(design: int = 0) -> Edit:
    """Take in what a drawing has beside its page."""
    return _read_otherwise("take it in", design, whole=True)


def _read_otherwise(name: str, design: int, **fields: bool) -> Edit:
    """Return the edit that reads a drawing in another way; what is no drawing stays as it is."""

    def change(one: Design) -> Design:
        if not isinstance(one.source, FileArt):
            return one
        return with_fields(one, source=with_fields(one.source, **fields))

    return with_design(name, design, change)


def take_embedded(said: str, name: str, data: bytes, design: int = 0) -> Edit:
    """Take a picture that is embedded in a drawing in the drawing's place, traced or, for a print, as it is."""
    source = PictureArt(file=ArtworkFile.of(name, data))
    return with_design(said, design, lambda one: with_fields(one, source=source))


def add_step(step: Step, design: int = 0, name: str | None = None) -> Edit:
    """Do one more thing to a design's artwork."""
    return with_design(name or step_name(step), design, lambda one: with_fields(one, steps=(*one.steps, step)))


def change_step(index: int, step: Step, design: int = 0) -> Edit:
    """Change one of a design's steps."""

    def change(one: Design) -> Design:
        return with_fields(one, steps=(*one.steps[:index], step, *one.steps[index + 1 :]))

    return with_design(f"change: {step_name(step)}", design, change, f"step-{design}-{index}")


def remove_step(index: int, design: int = 0) -> Edit:
    """Take a step out; those after it stay."""

    def change(one: Design) -> Design:
        return with_fields(one, steps=(*one.steps[:index], *one.steps[index + 1 :]))

    return with_design("take a step out", design, change)


def move_step(index: int, to: int, design: int = 0) -> Edit:
    """Do a step earlier or later."""

    def change(one: Design) -> Design:
        rest = [*one.steps[:index], *one.steps[index + 1 :]]
        rest.insert(to, one.steps[index])
        return with_fields(one, steps=tuple(rest))

    return with_design("move a step", design, change)

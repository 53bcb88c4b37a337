"""Words of a text set apart: each becomes a design of its own, of the same letter height, where it stands."""

from itertools import groupby

import numpy as np

from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.model import Artwork, Shape
from zinnet.artwork.painted import paint_artwork, painted_box, rough_extent
from zinnet.artwork.source import TextArt
from zinnet.base.errors import ZinnetError
from zinnet.base.frozen import with_fields
from zinnet.geometry.transform import Matrix, apply
from zinnet.job.edits import Edit
from zinnet.job.model import Job
from zinnet.placement.arrange import One
from zinnet.placement.place import Placement, held_by
from zinnet.plan.fitted import FittedDesign

FINE = 100_000
Word = tuple[int, int, str]
"""The line, the letter at which it begins, and its letters."""


def words_apart(job: Job, design: FittedDesign) -> Edit:
    """Return the edit that makes every word of a text a design of its own; nothing moves.

    Raises :class:`ZinnetError` where it is no straight text of several words that is laid once.
    """
    source, placement = job.designs[design.index].source, design.placement
    if not isinstance(source, TextArt):
        raise ZinnetError(f"Design {design.index + 1} is no text; only the words of a text can be set apart.")
    words = _words(source.text)
    if len(words) < 2:
        raise ZinnetError(f"“{source.text.text}” is one word; there is nothing to set apart.")
    if job.designs[design.index].steps or source.text.bend_deg or design.words is not None:
        raise ZinnetError("A bent text, one with steps or one with a field for names can't be set apart by words.")
    if placement is None or design.split is None or not isinstance(placement.arrangement, One) or placement.turn_deg:
        raise ZinnetError("Words can be set apart where a text is laid once and level.")
    to_panel = placement.matrix @ design.split.to_mm
    boxes = [_box(design.artwork, word, to_panel) for word in words]

    def change(job: Job) -> Job:
        before = job.designs[design.index]
        made = []
        for word, box in zip(words, boxes, strict=True):
            spec = _spec(source.text, word)
            placed = with_fields(before.placement, place=placement.place.id, **_at(placement, box))
            made.append(with_fields(before, source=TextArt(text=spec), placement=placed))
        designs = (*job.designs[: design.index], made[0], *job.designs[design.index + 1 :], *made[1:])
        return with_fields(job, designs=designs)

    return Edit("set the words apart", change)


def _words(spec: TextSpec) -> list[Word]:
    found = []
    for row, line in enumerate(spec.text.split("\n")):
        for is_space, letters in groupby(enumerate(line), key=lambda one: one[1].isspace()):
            if not is_space:
                taken = list(letters)
                found.append((row, taken[0][0], "".join(letter for _, letter in taken)))
    return found


def _spec(spec: TextSpec, word: Word) -> TextSpec:
    """Return one word of a text, with the room that was added by hand between its letters."""
    row, begin, letters = word
    end = begin + len(letters)
    kerns = tuple(
        with_fields(kern, line=0, letter=kern.letter - begin)
        for kern in spec.kerns
        if kern.line == row and begin <= kern.letter < begin + len(letters) - 1
    )
    runs = tuple(
        with_fields(
            run,
            line=0,
            letter=max(0, run.letter - begin),
            count=min(run.letter + run.count, end) - max(run.letter, begin),
        )
        for run in spec.runs
        if run.line == row and run.letter < end and run.letter + run.count > begin
    )
    return with_fields(spec, text=letters, kerns=kerns, runs=runs)


def _box(artwork: Artwork, word: Word, to_panel: Matrix) -> tuple[float, float, float, float]:
    """Return the box of one word on the panel, in mm."""
    shapes = tuple(shape for shape in artwork.shapes if _is_in(shape, word))
    alone = Artwork(shapes, None, artwork.mm_per_unit, ())
    left, top, right, bottom = painted_box(paint_artwork(alone, rough_extent(artwork) / FINE))
    corners = apply(to_panel, np.array([(left, top), (right, bottom)]))
    (x1, y1), (x2, y2) = corners.tolist()
    return x1, y1, x2, y2


def _is_in(shape: Shape, word: Word) -> bool:
    """Tell whether a glyph belongs to a word, by the line and the letter in its name."""
    row, begin, letters = word
    _, line, letter = shape.name.split("-")
    return int(line) == row + 1 and begin < int(letter) <= begin + len(letters)


def _at(placement: Placement, box: tuple[float, float, float, float]) -> dict[str, float | None]:
    return {"width_mm": box[2] - box[0], "height_mm": None, **held_by(placement.place, placement.panel, box)}

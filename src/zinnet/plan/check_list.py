"""The check list of names: which garment gets which words, on which mats its pieces are, and how it is pressed."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from zinnet.base.csv_text import written_csv
from zinnet.plan.model import Facts
from zinnet.plan.named import NamedGarment

HEAD = ("number", "words", "size", "count", "width_mm", "height_mm", "pieces", "mats", "press steps", "done")


@dataclass(frozen=True)
class NameLine:
    """One line of the list: a row with its garments, how large its words are, its pieces and its press steps.

    ``sizes`` are width and height in mm of its words, design by design, ``fields`` those of the fields that they are
    fitted to. ``pieces`` counts the pieces of all its garments by film, ``mats`` names the mats with its own words.
    """

    number: int
    words: str
    size: str
    count: int
    sizes: tuple[tuple[float, float], ...]
    fields: tuple[tuple[float, float], ...]
    pieces: tuple[tuple[str, int], ...]
    mats: tuple[int, ...]
    steps: int

    def to_json(self) -> dict[str, Any]:
        """Return the line for a file."""
        return {
            "number": self.number,
            "words": self.words,
            "size": self.size,
            "count": self.count,
            "width_mm": [round(width, 2) for width, _ in self.sizes],
            "height_mm": [round(height, 2) for _, height in self.sizes],
            "field_mm": [[round(width, 2), round(height, 2)] for width, height in self.fields],
            "pieces": dict(self.pieces),
            "mats": list(self.mats),
            "press_steps": self.steps,
        }


def name_lines(facts: Facts) -> tuple[NameLine, ...]:
    """Return the line of every row of the list."""
    pieces = _pieces(facts)
    mats: dict[int, set[int]] = {}
    for mat in facts.mats:
        for placed in mat.layout.placed:
            row = mat.nest.part(placed.piece).row
            if row is not None:
                mats.setdefault(row, set()).add(mat.number)
    steps = [len(press.steps) for press in facts.presses]
    return tuple(
        NameLine(
            number=one.number,
            words=one.words,
            size=facts.garments[one.garment].blank.name,
            count=one.names.count,
            sizes=tuple((design.split.width_mm, design.split.height_mm) for design in one.designs if design.split),
            fields=_fields(facts, one),
            pieces=tuple(sorted(pieces[one.row].items())),
            mats=tuple(sorted(mats.get(one.row, ()))),
            steps=steps[one.garment],
        )
        for one in facts.named
    )


def _pieces(facts: Facts) -> dict[int, Counter[str]]:
    """Return how many pieces of each film go onto the garments of each row; spare ones belong to none."""
    found: dict[int, Counter[str]] = {one.row: Counter() for one in facts.named}
    for nest in facts.nests:
        for part in nest.parts:
            for one in facts.named:
                is_same = part.row is None and part.garment == one.garment and part.composition not in one.taken
                if part.row == one.row or is_same:
                    found[one.row][nest.film.name] += len(part.places) * one.names.count
    return found


def _fields(facts: Facts, one: NamedGarment) -> tuple[tuple[float, float], ...]:
    shown = {design.index: design.words for design in facts.garments[one.garment].designs}
    fields = (shown[design.index] for design in one.designs)
    return tuple((words.width_mm, words.height_mm) for words in fields if words is not None)


def name_list_csv(lines: Sequence[NameLine]) -> str:
    """Return the check list as CSV, with an empty column to tick."""
    head = ("number", "words", "size", "count", "width_mm", "height_mm", "pieces", "mats", "press steps", "done")
    rows = (
        (
            line.number,
            line.words,
            line.size,
            line.count,
            " ".join(f"{width:.1f}" for width, _ in line.sizes),
            " ".join(f"{height:.1f}" for _, height in line.sizes),
            "; ".join(f"{count} {film}" for film, count in line.pieces),
            " ".join(map(str, line.mats)),
            line.steps,
            "",
        )
        for line in lines
    )
    return written_csv([head, *rows])

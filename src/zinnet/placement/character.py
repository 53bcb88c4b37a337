"""What kind of design it is: how much of its box is ink, how many parts, how many words; compact, usual or busy."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from itertools import pairwise

import shapely
from shapely.geometry import Polygon

from zinnet.base.stages import stage
from zinnet.data.limits import limits
from zinnet.geometry.region import Region
from zinnet.placement.guides import Character

WIDE_SHARE = 0.6
"""A layer of letters is what a design is about where it is at least this share as wide."""


@dataclass(frozen=True)
class Design:
    """What is told of a design's look. ``ink`` is the share of its box that is film."""

    ink: float
    parts: int
    words: int
    letters: int
    aspect: float
    character: Character

    @property
    def in_words(self) -> str:
        """The look in words."""
        words = f", {self.words} word{'s' if self.words != 1 else ''}" if self.words else ""
        kind = {"compact": "a compact motif", "usual": "a design like this", "busy": "a busy design"}[self.character]
        return f"{kind} (ink cover {self.ink * 100:.0f} %{words})"


@stage(most=64)
def design_of(region: Region) -> Design:
    """Return the look of artwork, of any scale."""
    numbers = limits()["character"]
    left, top, right, bottom = region.bounds
    width, height = right - left, bottom - top
    parts = [part for part in region.geoms if part.area > 1e-5 * width * height]
    rows = letter_rows(parts, numbers["letter_most_share"] * height, numbers["words_least_letters"])
    words = sum(map(_words, rows))
    letters = sum(map(len, rows))
    in_words = sum(part.area for row in rows for part in row)
    wordy = letters and in_words >= numbers["busy_least_words_share"] * region.area
    aspect = width / height
    character: Character = "usual"
    if wordy or len(parts) >= numbers["busy_least_parts"]:
        character = "busy"
    elif len(parts) <= numbers["compact_most_parts"] and max(aspect, 1 / aspect) <= numbers["compact_most_aspect"]:
        character = "compact"
    return Design(region.area / (width * height), len(parts), words, letters, height / width, character)


def look_of(region: Region, layers: Iterable[Region] = (), words: str = "") -> Design:
    """Return the look of artwork of several layers; words that are known, or that a layer shows, make it lettering.

    Letters with an outline round them, or joined ones, are one part of the whole: they are told by their own layer, or
    by what was typed.

    Parameters
    ----------
    region : Region
        All of it, of any scale.
    layers : regions
        Of each colour, at the same scale.
    words : str
        What was typed, where that is known.
    """
    look = design_of(region)
    if look.letters:
        return look
    known = words.split()
    if known:
        return replace(look, words=len(known), letters=sum(map(len, known)), character="busy")
    left, _, right, _ = region.bounds
    for layer in layers:
        shown = design_of(layer)
        wide = layer.bounds[2] - layer.bounds[0] >= WIDE_SHARE * (right - left)
        if shown.letters and shown.character == "busy" and wide:
            return replace(look, words=shown.words, letters=shown.letters, character="busy")
    return look


def letter_rows(parts: list[Polygon], most_height: float, least: int) -> list[list[Polygon]]:
    """Return rows of parts that look like letters: about as tall, standing on one line, near one another."""
    small = [part for part in parts if part.bounds[3] - part.bounds[1] <= most_height]
    if len(parts) >= least and not small:
        small = parts
    rows: list[list[Polygon]] = []
    for part in sorted(small, key=lambda part: (part.bounds[3], part.bounds[0])):
        high = part.bounds[3] - part.bounds[1]
        row = rows[-1] if rows else None
        if row is not None:
            bottom = row[-1].bounds[3]
            tall = max(other.bounds[3] - other.bounds[1] for other in row)
            if abs(part.bounds[3] - bottom) <= 0.12 * tall and 0.45 * tall <= high <= tall / 0.45:
                row.append(part)
                continue
        rows.append([part])
    ordered = [sorted(row, key=lambda part: part.bounds[0]) for row in rows]
    return [row for row in ordered if len(row) >= least and _is_close(row)]


def _is_close(row: list[Polygon]) -> bool:
    """Tell whether the parts of a row follow one another like letters."""
    tall = max(part.bounds[3] - part.bounds[1] for part in row)
    gaps = [b.bounds[0] - a.bounds[2] for a, b in pairwise(row)]
    return bool(sorted(gaps)[len(gaps) // 2] < 0.8 * tall)


def _words(row: list[Polygon]) -> int:
    tall = max(part.bounds[3] - part.bounds[1] for part in row)
    return 1 + sum(are_spaces([b.bounds[0] - a.bounds[2] for a, b in pairwise(row)], tall))


def are_spaces(gaps: list[float], tall: float) -> list[bool]:
    """Tell which gaps between letters are spaces between words: wide ones, and much wider than most."""
    numbers = limits()["character"]
    usual = sorted(gaps)[(len(gaps) - 1) // 2] if gaps else 0.0
    return [gap > max(numbers["space_share"] * tall, numbers["space_times"] * usual) for gap in gaps]


@stage(most=64)
def letters_of(region: Region) -> tuple[Region, ...]:
    """Return the letters of a word from left to right: parts that stand over one another belong to one letter.

    A part that shares at least half of its width with a letter, like the dot of an i, belongs to it.
    """
    found: list[tuple[float, float, list[Polygon]]] = []
    for part in sorted(region.geoms, key=lambda part: part.bounds[0]):
        left, _, right, _ = part.bounds
        for index, (first, last, parts) in enumerate(found):
            shared = min(last, right) - max(first, left)
            if shared >= 0.5 * min(last - first, right - left):
                found[index] = (min(first, left), max(last, right), [*parts, part])
                break
        else:
            found.append((left, right, [part]))
    found.sort(key=lambda row: row[0] + row[1])
    return tuple(Region(parts) for _, _, parts in found)


def baseline_of(letters: tuple[Region, ...]) -> float:
    """Return the height of the line that letters stand on: the median of their feet, so that a tail does not count."""
    feet = sorted(shapely.bounds(letter)[3] for letter in letters)
    return float(feet[(len(feet) - 1) // 2])

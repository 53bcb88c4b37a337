"""How large words are: each as large as its field lets it be, or all with letters of one size. None is stretched."""

from collections.abc import Mapping
from dataclasses import dataclass

from zinnet.artwork.lettering.lines import text_region
from zinnet.artwork.lettering.outlined_name import name_region
from zinnet.artwork.painted import paint_artwork, painted_box
from zinnet.artwork.source import OutlinedNameArt, Source, TextArt, artwork_of
from zinnet.base.errors import ArtworkError
from zinnet.base.stages import stage
from zinnet.data.limits import limits
from zinnet.job.names.model import NameList, Sizing
from zinnet.job.names.words import all_filled
from zinnet.steps.model import ALL, Outline, Step

MADE_MM = 200.0


@dataclass(frozen=True)
class WordBox:
    """The box of words: so wide and high in em, and what stays the same in mm at every size, on each side."""

    width: float
    height: float
    rim_mm: float

    def largest(self, width_mm: float, height_mm: float) -> float:
        """Return the largest em in mm at which the words lie in a field; 0 where the rim alone fills it."""
        inner_width, inner_height = width_mm - 2 * self.rim_mm, height_mm - 2 * self.rim_mm
        return max(0.0, min(inner_width / self.width, inner_height / self.height))

    def width_at(self, em_mm: float) -> float:
        """Return how wide the words are, their rim counted in, in mm."""
        return self.width * em_mm + 2 * self.rim_mm


@dataclass(frozen=True)
class FittedWords:
    """A field (mm), how wide the words of each row are (mm), and how large their letters are (mm to the em).

    ``largest`` is how large the letters of a row could be by itself.
    """

    width_mm: float
    height_mm: float
    widths: Mapping[int, float]
    ems: Mapping[int, float]
    largest: Mapping[int, float]

    @property
    def widest(self) -> int:
        """The row whose words are the widest."""
        return max(self.widths, key=lambda row: (self.widths[row], -row))


def usual_height_mm(width_mm: float) -> float:
    """Return how high a field is where nobody says so."""
    return float(limits()["names"]["height_share"]) * width_mm


def fit_words(boxes: Mapping[int, WordBox], width_mm: float, height_mm: float, sizing: Sizing) -> FittedWords:
    """Return how large the words of each row are in a field; with one size the longest sets it for all."""
    largest = {row: box.largest(width_mm, height_mm) for row, box in boxes.items()}
    ems = dict.fromkeys(largest, min(largest.values())) if sizing == "one size" else largest
    if min(ems.values()) <= 0:
        raise ArtworkError(
            f"A field of {width_mm:.0f} x {height_mm:.0f} mm is too small for the names' outlines; make it larger."
        )
    widths = {row: boxes[row].width_at(em) for row, em in ems.items()}
    return FittedWords(width_mm, height_mm, widths, ems, largest)


@stage(most=32)
def word_boxes(source: Source, steps: tuple[Step, ...], names: NameList) -> dict[int, WordBox]:
    """Return the box of the words of every row that has some."""
    sources = all_filled(source, names)
    return {row: word_box(one, steps) for row, one in enumerate(sources) if one is not None}


@stage(most=8192)
def word_box(source: Source, steps: tuple[Step, ...]) -> WordBox:
    """Return the box of a source's words. Raises :class:`ArtworkError` where they can't be made."""
    rim = sum(step.width_mm * len(step.colours) for step in steps if isinstance(step, Outline) and step.which == ALL)
    rim = max(0.0, rim)
    if isinstance(source, TextArt):
        left, top, right, bottom = text_region(source.text).bounds
    elif isinstance(source, OutlinedNameArt):
        left, top, right, bottom = name_region(source.name).bounds
        rim += sum(ring.width_mm for ring in source.name.outlines)
    else:
        left, top, right, bottom = painted_box(paint_artwork(artwork_of(source, MADE_MM), 0.1))
    return WordBox(right - left, bottom - top, rim)

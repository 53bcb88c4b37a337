"""What an element of an SVG inherits from those around it, and what its parts may ask of the walk over the file."""

from collections import Counter
from dataclasses import dataclass
from typing import Protocol
from xml.etree.ElementTree import Element

from zinnet.artwork.model import RemarkCode, Shape
from zinnet.artwork.svg.budget import Budget
from zinnet.artwork.svg.style import StyleSheets
from zinnet.geometry.curves import Subpath
from zinnet.geometry.region import Region
from zinnet.geometry.transform import Matrix


@dataclass(frozen=True)
class Context:
    """What an element inherits."""

    matrix: Matrix
    style: dict[str, str]
    opacity: float
    width: float
    height: float
    clips: tuple[Region, ...] = ()
    depth: int = 0
    inside_use: tuple[str, ...] = ()
    inside_masks: tuple[Element, ...] = ()

    @property
    def place(self) -> tuple[bytes, float, float]:
        """Where an element stands, as far as what clips and masks it depends on that."""
        return self.matrix.tobytes(), self.width, self.height


class Walk(Protocol):
    """The walk over one file, as clips, masks, markers and words use it."""

    budget: Budget
    sheets: StyleSheets
    ids: dict[str, Element]
    remarks: Counter[RemarkCode]
    said: dict[RemarkCode, str]
    shapes: list[Shape]

    def visit(self, element: Element, context: Context) -> None:
        """Take in an element and all that it holds."""

    def paint(self, element: Element, subpaths: tuple[Subpath, ...], context: Context) -> None:
        """Add what the fill and the stroke of a shape paint."""

"""What an element of an SVG inherits from those around it."""

from dataclasses import dataclass

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

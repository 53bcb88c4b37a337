"""What a camera looks down on: flat things on a table, in mm, the lowest first."""

from dataclasses import dataclass
from typing import Literal

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.camera.known_sheets import photo_numbers
from zinnet.geometry.region import Region, as_region
from zinnet.geometry.transform import Matrix, moved

Surface = Literal["cloth", "film", "glitter", "carrier", "paper"]
PAPER = "#f7f6f2"


@dataclass(frozen=True, eq=False)
class Thing:
    """Something flat: its region in mm on the table, y down, its colour, and what it is made of.

    A carrier is clear: what lies below is seen through it.
    """

    region: Region
    colour: str
    surface: Surface = "film"


@dataclass(frozen=True, eq=False)
class Scene:
    """A table of a colour and what lies on it; ``size`` is what the camera sees of it, in mm.

    ``board`` is where the printed mark sheet lies: the matrix from its own mm to those of the table.
    """

    size: tuple[float, float]
    table: str
    things: tuple[Thing, ...]
    board: Matrix | None = None


def sheet_at(name: str, matrix: Matrix) -> Thing:
    """Return a sheet of known size, its middle at the origin before it is moved by a matrix."""
    short, long = photo_numbers().papers[name].sides_mm
    return Thing(moved(as_region(shapely.box(-short / 2, -long / 2, short / 2, long / 2)), matrix), PAPER, "paper")


def rgb(colour: str) -> NDArray[np.float32]:
    """Return red, green and blue of ``#rrggbb`` (3,), 0 to 255."""
    return np.array([int(colour[k : k + 2], 16) for k in (1, 3, 5)], dtype=np.float32)

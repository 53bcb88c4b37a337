"""What is printed: a colour, or a picture that stays one, and where."""

from dataclasses import dataclass

import numpy as np

from zinnet.geometry.region import Region
from zinnet.geometry.transform import Matrix, moved

type Nine = tuple[float, ...]


@dataclass(frozen=True)
class Ink:
    """A region that is printed in a colour, in mm; of a picture, its file and how its pixels come to these mm."""

    colour: str
    region: Region
    picture: bytes = b""
    pixels_to_mm: Nine = ()

    @classmethod
    def of_picture(cls, colour: str, region: Region, picture: bytes, matrix: Matrix) -> "Ink":
        """Return a picture as ink; ``matrix`` leads from the pixels of its file, upright, to the region's mm."""
        return cls(colour, region, picture, tuple(np.asarray(matrix).ravel().tolist()))

    @property
    def matrix(self) -> Matrix:
        """The matrix from the pixels of the picture's file, upright, to mm."""
        return np.array(self.pixels_to_mm).reshape(3, 3)

    def moved(self, matrix: Matrix, region: Region | None = None) -> "Ink":
        """Return it elsewhere; ``region`` is what of it is there, where that is not all."""
        there = moved(self.region, matrix) if region is None else region
        if not self.picture:
            return Ink(self.colour, there)
        return Ink.of_picture(self.colour, there, self.picture, matrix @ self.matrix)

"""3x3 matrices in mm, y down: the links of the one chain of transforms."""

import math
from collections.abc import Sequence
from typing import cast

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

Matrix = NDArray[np.float64]
"""A 3x3 affine matrix that acts on column vectors (x, y, 1)."""

IDENTITY: Matrix = np.eye(3)
IDENTITY.flags.writeable = False


def affine(a: float, b: float, c: float, d: float, e: float, f: float) -> Matrix:
    """Return the matrix that SVG writes as ``matrix(a b c d e f)``.

    Parameters
    ----------
    a, b, c, d, e, f : float
        x' = a x + c y + e, y' = b x + d y + f.

    Returns
    -------
    array (3, 3)
        For column vectors (x, y, 1).
    """
    return np.array([[a, c, e], [b, d, f], [0.0, 0.0, 1.0]])


def shift(x: float, y: float) -> Matrix:
    """Return the translation by (x, y)."""
    return affine(1, 0, 0, 1, x, y)


def scale(x: float, y: float | None = None) -> Matrix:
    """Return the scaling by x and y (by x both ways where y is left out)."""
    return affine(x, 0, 0, x if y is None else y, 0, 0)


def turn(angle_deg: float) -> Matrix:
    """Return the turn about the origin, positive from x towards y (clockwise on screen), as in SVG."""
    quarter, rest = divmod(angle_deg, 90.0)
    if rest == 0:
        cosine, sine = ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))[int(quarter) % 4]
    else:
        cosine, sine = math.cos(math.radians(angle_deg)), math.sin(math.radians(angle_deg))
    return affine(cosine, sine, -sine, cosine, 0, 0)


def similarity(*, factor: float, turn_deg: float, x: float, y: float) -> Matrix:
    """Return scale, then turn about the origin, then shift.

    Parameters
    ----------
    factor : float
        Positive; lengths are multiplied by it.
    turn_deg : float, degrees
        Positive from x towards y.
    x, y : float, the unit of the points
        Where the origin goes.

    Returns
    -------
    array (3, 3)
        For column vectors (x, y, 1).
    """
    return shift(x, y) @ turn(turn_deg) @ scale(factor)


MIRROR: Matrix = affine(-1, 0, 0, 1, 0, 0)
"""The reflection left to right: what is seen from the front, as cut from the back."""
MIRROR.flags.writeable = False


def stretch(matrix: Matrix) -> float:
    """Return the most by which the matrix lengthens anything (its largest singular value)."""
    (a, c), (b, d) = matrix[:2, :2].tolist()
    squares, determinant = a * a + b * b + c * c + d * d, a * d - b * c
    return math.sqrt((squares + math.sqrt(max(0.0, squares * squares - 4 * determinant * determinant))) / 2)


def is_mirrored(matrix: Matrix) -> bool:
    """Tell whether the matrix turns left into right."""
    return bool(np.linalg.det(matrix[:2, :2]) < 0)


def apply(matrix: Matrix, points: NDArray[np.float64]) -> NDArray[np.float64]:
    """Return points of shape (..., 2) moved by the matrix.

    Parameters
    ----------
    matrix : array (3, 3)
        An affine map of the plane.
    points : array (..., 2)
        Any unit.

    Returns
    -------
    array (..., 2)
        A new one.
    """
    return points @ matrix[:2, :2].T + matrix[:2, 2]


def moved[G: BaseGeometry](geometry: G, matrix: Matrix) -> G:
    """Return a geometry moved by the matrix."""
    return cast(G, shapely.transform(geometry, lambda points: apply(matrix, points)))


def coefficients(matrix: Matrix) -> tuple[float, float, float, float, float, float]:
    """Return (a, b, c, d, e, f) as SVG writes them."""
    (a, c, e), (b, d, f), _ = matrix.tolist()
    return a, b, c, d, e, f


def moved_all[G: BaseGeometry](geometries: Sequence[G], matrix: Matrix) -> tuple[G, ...]:
    """Return many geometries moved by the matrix at once."""
    if not geometries:
        return ()
    array = np.array(geometries, dtype=object)
    return tuple(shapely.transform(array, lambda points: apply(matrix, points)).tolist())

"""Photos with known truth, drawn by the project itself: a garment on a floor with a sheet on it, seen by a camera."""

from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np

PX_MM = 1.4
PLANE = 1400
"""The drawn plane is so many mm wide and high, PX_MM pixels to the mm."""
SHEETS = {"a4": (210.0, 297.0), "letter": (215.9, 279.4), "card": (53.98, 85.6)}


@dataclass
class Drawn:
    """A picture, and the matrix from mm on the plane to its pixels."""

    picture: np.ndarray
    to_px: np.ndarray
    tilt: float
    corners: np.ndarray

    def px(self, x, y):
        at = self.to_px @ (x, y, 1.0)
        return float(at[0] / at[2]), float(at[1] / at[2])


def plane(luck, paper, *, sheet=True, covered=None, cloth=None):
    """Return the plane as it lies: floor, garment, sheet; and the sheet's corners in mm."""
    side = int(PLANE * PX_MM)
    floor = luck.integers(70, 130)
    image = np.full((side, side, 3), floor, np.float32)
    boards = np.arange(side) // int(90 * PX_MM)
    image += (luck.normal(0, 6, boards.max() + 1)[boards])[None, :, None]
    colour = np.array(cloth if cloth is not None else luck.integers(15, 140, 3), np.float32)
    tee = np.array([(400, 330), (560, 280), (840, 280), (1000, 330), (1180, 520), (1060, 600), (990, 540), (990, 1120),
                    (410, 1120), (410, 540), (340, 600), (220, 520)], np.float32)  # fmt: skip
    cv2.fillPoly(image, [(tee * PX_MM).astype(np.int32)], colour.tolist(), lineType=cv2.LINE_AA)
    wide, high = SHEETS[paper]
    angle = luck.uniform(0, np.pi)
    middle = np.array([700, 720]) + luck.uniform(-90, 90, 2)
    turn = np.array([[np.cos(angle), -np.sin(angle)], [np.sin(angle), np.cos(angle)]])
    corners = middle + np.array([(-wide, -high), (wide, -high), (wide, high), (-wide, high)]) @ turn.T / 2
    if sheet:
        white = luck.uniform(215, 250)
        share = _covered_by(middle, turn, wide, high, side)[..., None]
        image = image * (1 - share) + share * np.array((white, white, white * 0.98), np.float32)
    if covered == "corner":
        cv2.circle(image, tuple((corners[1] * PX_MM).astype(int)), int(0.22 * wide * PX_MM), colour.tolist(), -1)
    elif covered == "edge":
        at = (corners[0] + corners[1]) / 2
        cv2.circle(image, tuple((at * PX_MM).astype(int)), int(0.3 * wide * PX_MM), (60, 50, 45), -1)
    return image, corners


def _covered_by(middle, turn, wide, high, side):
    """Return how much of each pixel of the plane a turned rectangle covers."""
    at = (np.arange(side, dtype=np.float32) + 0.5) / PX_MM
    x, y = np.meshgrid(at - middle[0], at - middle[1])
    u, v = x * turn[0, 0] + y * turn[1, 0], x * turn[0, 1] + y * turn[1, 1]
    across = np.clip(0.5 + (wide / 2 - np.abs(u)) * PX_MM, 0, 1)
    return across * np.clip(0.5 + (high / 2 - np.abs(v)) * PX_MM, 0, 1)


@lru_cache(maxsize=16)
def photo(seed, *, most_tilt=35.0, paper="a4", size=(1200, 900), **how):
    """Return a photo by a camera tilted by at most so many degrees."""
    luck = np.random.default_rng(seed)
    image, corners = plane(luck, paper, **how)
    columns, rows = size
    focal = luck.uniform(0.8, 1.3) * columns
    tilt = np.radians(luck.uniform(0, most_tilt))
    about = luck.uniform(0, 2 * np.pi)
    axis = np.array([np.cos(about), np.sin(about), 0.0])
    rotation, _ = cv2.Rodrigues(axis * tilt)
    spin, _ = cv2.Rodrigues(np.array([0, 0, luck.uniform(-np.pi, np.pi)]))
    reach = {"card": 420.0}.get(paper, 900.0)
    away = focal * luck.uniform(1.0, 1.25) * reach / rows
    target = np.array([*(corners.mean(axis=0) + luck.uniform(-40, 40, 2)), 0.0])
    turned = rotation @ spin
    offset = np.array([0, 0, away]) - turned @ target
    camera = np.array([[focal, 0, columns / 2], [0, focal, rows / 2], [0, 0, 1]])
    to_px = camera @ np.column_stack([turned[:, 0], turned[:, 1], offset])
    from_plane_px = to_px @ np.array([[1 / PX_MM, 0, 0.5 / PX_MM], [0, 1 / PX_MM, 0.5 / PX_MM], [0, 0, 1]])
    seen = cv2.warpPerspective(image, from_plane_px, size, flags=cv2.INTER_AREA, borderValue=(95, 95, 95))
    x, y = np.meshgrid(np.linspace(-1, 1, columns), np.linspace(-1, 1, rows))
    seen *= (1 - luck.uniform(0, 0.18) * (x * np.cos(about) + y * np.sin(about)))[..., None]
    seen = cv2.GaussianBlur(seen, (0, 0), luck.uniform(0.6, 2.0))
    seen += luck.normal(0, luck.uniform(1, 6), seen.shape)
    return Drawn(np.clip(seen, 0, 255).astype(np.uint8), to_px, float(np.degrees(tilt)), corners)

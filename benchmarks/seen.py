"""A second renderer of what a camera sees, for checks: every pixel looks back through a lens onto the table.

It shares nothing with the stand-in camera but the words in which a scene is said: it samples the plane four times a
pixel along rays through a lens that bends them, lights it by a lamp at a finite height, and adds photons' noise.
"""

import io
from dataclasses import dataclass

import cv2
import numpy as np
from PIL import Image

from zinnet.camera.scene import Scene, rgb

PX_MM = 6.0
CURVE = 2.2
FINE = 2400
"""Pictures of more columns are looked at once a pixel."""


@dataclass(frozen=True)
class Look:
    """How the scene is looked at: size in pixels, tilt and turn in degrees, light from one side, lens, noise.

    ``uneven`` is how many times brighter the brightest corner is than the darkest; ``bend`` the lens's first radial
    term, of half the picture's diagonal; ``full`` the electrons of a pixel that is full.
    """

    pixels: tuple[int, int] = (1280, 720)
    tilt: float = 10.0
    towards: float = 0.0
    turn: float = 0.0
    focal: float = 0.95
    room: float = 1.08
    uneven: float = 2.0
    light_from: float = 45.0
    bend: float = 0.0
    blur_px: float = 0.8
    full: float = 6000.0
    quality: int = 70
    exposure: float = 0.85
    warmth: float = 0.0
    seed: int = 0


@dataclass(frozen=True, eq=False)
class Seen:
    """The picture, and the matrix (3, 3) from mm on the table to pixels where the lens bends nothing."""

    picture: np.ndarray
    to_px: np.ndarray


def seen(scene: Scene, look: Look) -> Seen:
    """Return what a camera sees of a scene."""
    luck = np.random.default_rng(look.seed)
    albedo, gloss = _albedo(scene, luck)
    to_px, centre = _camera(scene, look)
    columns, rows = look.pixels
    linear = np.zeros((rows, columns, 3), np.float32)
    back = np.linalg.inv(to_px)
    half = np.hypot(columns, rows) / 2
    taps = ((0.0, 0.0),) if columns > FINE else ((-0.25, -0.25), (0.25, -0.25), (-0.25, 0.25), (0.25, 0.25))
    for dx, dy in taps:
        x, y = np.meshgrid(np.arange(columns) + dx, np.arange(rows) + dy)
        u, v = (x - columns / 2) / half, (y - rows / 2) / half
        bent = 1 + look.bend * (u * u + v * v)
        x, y = columns / 2 + u * bent * half, rows / 2 + v * bent * half
        w = back[2, 0] * x + back[2, 1] * y + back[2, 2]
        mx = (back[0, 0] * x + back[0, 1] * y + back[0, 2]) / w
        my = (back[1, 0] * x + back[1, 1] * y + back[1, 2]) / w
        at = (mx * PX_MM).astype(np.float32), (my * PX_MM).astype(np.float32)
        beyond = tuple(float(one) for one in _linear(scene.table))
        colour = cv2.remap(albedo, *at, cv2.INTER_NEAREST, borderMode=cv2.BORDER_CONSTANT, borderValue=beyond)
        shine = cv2.remap(gloss, *at, cv2.INTER_NEAREST, borderMode=cv2.BORDER_CONSTANT, borderValue=0.0)
        lamp = _lamp(mx, my, scene, look)
        glint = np.exp(-((mx - centre[0]) ** 2 + (my - centre[1]) ** 2) / (2 * (0.16 * scene.size[0]) ** 2))
        linear += (colour * lamp[..., None] + (shine * glint * 0.10)[..., None]) / len(taps)
    u, v = np.meshgrid(np.linspace(-1, 1, columns), np.linspace(-1, 1, rows))
    linear *= (1 - 0.12 * (u * u + v * v) / 2)[..., None]
    if look.blur_px > 0:
        linear = cv2.GaussianBlur(linear, (0, 0), look.blur_px)
    linear *= look.exposure * np.array([1 + look.warmth, 1.0, 1 - look.warmth], np.float32)
    electrons = np.clip(linear, 0, 1.2) * look.full
    electrons += luck.normal(0, 1, electrons.shape) * np.sqrt(electrons + 12.0)
    value = np.clip(electrons / look.full, 0, 1) ** (1 / CURVE)
    picture = np.round(value * 255).astype(np.uint8)
    return Seen(_as_jpeg(picture, look.quality), to_px)


def _as_jpeg(picture, quality):
    buffer = io.BytesIO()
    Image.fromarray(picture).save(buffer, format="JPEG", quality=quality)
    return np.asarray(Image.open(io.BytesIO(buffer.getvalue())).convert("RGB"))


def jpeg_bytes(picture, quality=70) -> bytes:
    """Return a picture as the bytes of a JPEG file."""
    buffer = io.BytesIO()
    Image.fromarray(picture).save(buffer, format="JPEG", quality=quality)
    return buffer.getvalue()


def _camera(scene, look):
    """Return the matrix from mm to pixels, all of the table in the picture; and where the lamp is mirrored."""
    columns, rows = look.pixels
    focal = look.focal * columns
    box = _bounds(scene)
    tilt, towards, spin = np.radians([look.tilt, look.towards, look.turn])
    axis = np.array([np.cos(towards), np.sin(towards), 0.0])
    rotation, _ = cv2.Rodrigues(axis * tilt)
    turn, _ = cv2.Rodrigues(np.array([0.0, 0.0, spin]))
    turned = rotation @ turn
    middle = np.array([(box[0] + box[2]) / 2, (box[1] + box[3]) / 2, 0.0])
    wide, high = box[2] - box[0], box[3] - box[1]
    lens = np.array([[focal, 0, columns / 2], [0, focal, rows / 2], [0, 0, 1]])
    corners = np.array([[x, y, 0] for x in box[::2] for y in box[1::2]], float) - middle
    away = 0.8 * focal * max(wide / columns, high / rows)
    for _ in range(80):
        offset = np.array([0, 0, away]) - turned @ middle
        at = lens @ (turned @ (corners + middle).T + offset[:, None])
        pixels = at[:2] / at[2]
        over = max(
            np.abs(pixels[0] - columns / 2).max() / (columns / 2), np.abs(pixels[1] - rows / 2).max() / (rows / 2)
        )
        if over * look.room <= 1:
            break
        away *= 1.02
    to_px = lens @ np.column_stack([turned[:, 0], turned[:, 1], offset])
    angle = np.radians(look.light_from)
    mirrored = middle[:2] + 0.3 * np.array([np.cos(angle) * wide, np.sin(angle) * high])
    return to_px / to_px[2, 2], mirrored


def _bounds(scene):
    """Return what is in the picture at least: all things, with a finger's room."""
    boxes = [thing.region.bounds for thing in scene.things]
    if scene.board is not None:
        at = scene.board @ np.array([[-18, -24, 1], [193, -24, 1], [193, 274, 1], [-18, 274, 1]], float).T
        boxes.append((*at[:2].min(axis=1), *at[:2].max(axis=1)))
    low, high = np.array(boxes)[:, :2].min(axis=0) - 15, np.array(boxes)[:, 2:].max(axis=0) + 15
    return np.array([*low, *high])


def _lamp(x, y, scene, look):
    """Return how bright the table is: a lamp at a finite height to one side, its brightest 1."""
    wide, high = scene.size
    angle = np.radians(look.light_from)
    across = ((x - wide / 2) * np.cos(angle) + (y - high / 2) * np.sin(angle)) / (np.hypot(wide, high) / 2)
    depth = np.log(look.uneven) / 2
    return np.exp(depth * (np.clip(across, -1.3, 1.3) - 1)).astype(np.float32)


def _albedo(scene, luck):
    """Return the colours of the plane (linear, 0 to 1) and how much of it shines."""
    wide, high = (round(side * PX_MM) for side in scene.size)
    image = np.empty((high, wide, 3), np.float32)
    image[:] = _linear(scene.table)
    grain = cv2.resize(luck.normal(0, 1, (high // 24 + 2, wide // 160 + 2)).astype(np.float32), (wide, high))
    image *= (1 + 0.035 * grain * _fading(image.shape[:2]))[..., None]
    if scene.board is not None:
        _print_board(scene, image)
    gloss = np.zeros((high, wide), np.float32)
    for thing in scene.things:
        mask = _mask(thing.region, (high, wide))
        where = mask > 0
        colour = _linear(thing.colour)
        if thing.surface == "carrier":
            image[where] = image[where] * 0.9 + 0.035
            gloss[where] = 1.0
            continue
        if thing.surface == "cloth":
            threads = _threads(luck, (high, wide))
            image[where] = colour * (1 + 0.10 * threads[where])[:, None]
            gloss[where] = 0.0
        elif thing.surface == "glitter":
            flakes = luck.random((high // 3 + 1, wide // 3 + 1)).astype(np.float32)
            flakes = cv2.resize(flakes, (wide, high), interpolation=cv2.INTER_NEAREST)
            lit = np.where(flakes > 0.96, 2.2, 0.55 + 0.8 * flakes)
            image[where] = np.clip(colour * lit[where][:, None], 0, 1)
        else:
            image[where] = colour
            gloss[where] = 0.25 if thing.surface == "film" else 0.0
    return image, gloss


def _fading(shape):
    rows, columns = (np.minimum(np.arange(size), np.arange(size)[::-1]) for size in shape)
    reach = 20 * PX_MM
    return np.clip(rows / reach, 0, 1)[:, None] * np.clip(columns / reach, 0, 1)[None, :]


def _print_board(scene, image):
    from zinnet.camera.board import board_picture

    printed = board_picture(10.0).astype(np.float32) / 255
    matrix = np.diag([PX_MM, PX_MM, 1.0]) @ scene.board @ np.diag([0.1, 0.1, 1.0])
    size = image.shape[1], image.shape[0]
    paper = 0.9 * cv2.warpPerspective(printed, matrix, size, flags=cv2.INTER_AREA) + 0.02
    there = cv2.warpPerspective(np.ones_like(printed), matrix, size, flags=cv2.INTER_NEAREST) > 0.5
    image[there] = paper[there][:, None]


def _threads(luck, shape):
    rows, columns = shape
    x = np.sin(np.arange(columns) * (2 * np.pi / (0.9 * PX_MM)))
    y = np.sin(np.arange(rows) * (2 * np.pi / (0.75 * PX_MM)))
    return (x[None, :] * y[:, None] + 0.5 * luck.normal(0, 1, shape)).astype(np.float32)


def _mask(region, shape):
    mask = np.zeros(shape, np.uint8)
    for part in region.geoms:
        rings = [part.exterior, *part.interiors]
        points = [np.round(np.asarray(ring.coords) * PX_MM * 16).astype(np.int32) for ring in rings]
        own = np.zeros(shape, np.uint8)
        cv2.fillPoly(own, points, 1, shift=4)
        mask |= own
    return mask


def _linear(colour):
    return (rgb(colour) / 255) ** CURVE

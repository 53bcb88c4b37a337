"""What the camera tells of drawn pictures with known truth: how often, how far off, and whether it says so."""

import sys
import time
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import affinity

from benchmarks.seen import Look, Seen, seen
from zinnet.camera.found_sheet import PhotoError
from zinnet.camera.laid import judge_laid
from zinnet.camera.plane import BOARD, Plane, mapped
from zinnet.camera.scene import Scene, Thing, sheet_at
from zinnet.camera.scraps import find_scraps
from zinnet.camera.weeded import judge_weeding
from zinnet.demo import demo_document
from zinnet.films.catalogue import catalogue_films
from zinnet.films.colours import colour_difference
from zinnet.geometry.region import Region, as_region
from zinnet.geometry.transform import moved, shift, turn

PICTURES = 200
LARGE, SMALL = (4000, 3000), (1280, 720)
CLOTHS = ("#1d1f2b", "#23304a", "#8a1f2b", "#f1ede2", "#5c6a4a", "#b9bcc2", "#2f7f86")
TABLES = ("#2b2b2e", "#5a4632", "#7d6a52", "#8f9396", "#c9b99a", "#3d4a3f", "#1d2b53", "#b8bcc0")


def look_at(luck, large: bool, **more) -> Look:
    """Return a random way to look: tilt up to 25 degrees, light uneven by up to 3 to 1."""
    return Look(
        pixels=LARGE if large else SMALL,
        tilt=float(luck.uniform(0, 25)),
        towards=float(luck.uniform(0, 360)),
        turn=float(luck.uniform(-180, 180)) if luck.random() < 0.3 else float(luck.uniform(-12, 12)),
        focal=float(luck.uniform(0.75, 1.2)),
        uneven=float(luck.uniform(1, 3)),
        light_from=float(luck.uniform(0, 360)),
        blur_px=float(luck.uniform(0.5, 1.3)) * (1.6 if large else 1.0),
        full=float(luck.uniform(2500, 12000)),
        exposure=float(luck.uniform(0.75, 0.98)),
        warmth=float(luck.uniform(-0.08, 0.12)),
        seed=int(luck.integers(1 << 30)),
        **more,
    )


def frame(luck, size, board=False):
    """Return the sheet beside what is looked at, on the right, and where it lies on a table of a size."""
    x, y = size[0] - 130 + luck.uniform(-8, 8), size[1] / 2 + luck.uniform(-10, 10)
    angle = luck.uniform(-8, 8)
    if board:
        return None, shift(x, y) @ turn(angle) @ shift(-87.5, -125.0)
    return sheet_at("a4", shift(x, y) @ turn(angle)), None


def scrap_shape(luck, middle) -> Region:
    """Return a scrap as it is left over: a piece of film with cut-outs, now and then with holes."""
    wide, high = luck.uniform(80, 220), luck.uniform(70, 230)
    region = shapely.box(-wide / 2, -high / 2, wide / 2, high / 2)
    for _ in range(int(luck.integers(1, 5))):
        at = luck.uniform(-1, 1, 2) * (wide / 2, high / 2)
        side = np.argmax(np.abs(at) / (wide, high))
        at[side] = np.sign(at[side]) * (wide, high)[side] / 2
        size = luck.uniform(12, 0.32 * min(wide, high))
        bite = shapely.Point(at).buffer(size) if luck.random() < 0.5 else shapely.box(*(at - size), *(at + size))
        region = region.difference(affinity.rotate(bite, luck.uniform(0, 90)))
    for _ in range(int(luck.integers(0, 3))):
        hole = shapely.Point(luck.uniform(-0.25, 0.25, 2) * (wide, high)).buffer(luck.uniform(4, 18))
        if region.buffer(-4).contains(hole):
            region = region.difference(hole)
    largest = max(shapely.get_parts(region), key=lambda part: part.area)
    return as_region(affinity.translate(affinity.rotate(largest, luck.uniform(0, 360), origin=(0, 0)), *middle))


def film_unlike(luck, table: str, least: float = 22.0) -> str:
    """Return the colour of a plain film that is well told from a table."""
    colours = sorted({film.colour for film in catalogue_films()})
    able = [colour for colour in colours if colour_difference(colour, table) > least]
    return able[int(luck.integers(len(able)))]


def to_scene(plane: Plane, view: Seen, region: Region) -> np.ndarray:
    """Return the matrix (3, 3) from a plane's mm to the scene's that lays its truth best, turned and shifted only."""
    points = shapely.get_coordinates(region)[::3]
    told = mapped(plane.to_mm, mapped(view.to_px, points))
    middle, there = told.mean(axis=0), points.mean(axis=0)
    one, _, other = np.linalg.svd((told - middle).T @ (points - there))
    rotation = (one @ np.diag([1, np.sign(np.linalg.det(one @ other))]) @ other).T
    matrix = np.eye(3)
    matrix[:2, :2], matrix[:2, 2] = rotation, there - rotation @ middle
    return matrix


def laid(region: Region, matrix: np.ndarray) -> Region:
    """Return a region moved by a matrix (3, 3)."""
    return as_region(shapely.transform(region, lambda spots: mapped(matrix, spots)))


@dataclass(frozen=True)
class Told:
    """How a scrap was told: worst point of the outline, how far outwards, the error said, the share of area off."""

    worst_mm: float
    out_mm: float
    said_mm: float
    area: float
    seconds: float


def scrap_case(seed: int, board: bool = False) -> Told | str:
    """Look at one scrap; return how it was told, or why not."""
    luck = np.random.default_rng(seed)
    size = (620.0, 420.0)
    table = TABLES[int(luck.integers(len(TABLES)))]
    sheet, at = frame(luck, size, board)
    truth = scrap_shape(luck, (200.0 + luck.uniform(-15, 15), 210.0 + luck.uniform(-15, 15)))
    colour = film_unlike(luck, table)
    things = (Thing(truth, colour), *([sheet] if sheet is not None else []))
    view = seen(Scene(size, table, things, at), look_at(luck, seed % 2 == 0))
    began = time.perf_counter()
    try:
        found = find_scraps(view.picture, BOARD if board else "a4")
    except PhotoError as error:
        return f"{table} {colour}: {error}"
    took = time.perf_counter() - began
    if len(found.scraps) != 1:
        return f"{table} {colour}: {len(found.scraps)} scraps"
    scrap = found.scraps[0]
    told = laid(scrap.region, to_scene(found.plane, view, truth))
    rim = truth.boundary
    points = shapely.points(shapely.get_coordinates(told.boundary.segmentize(1.0)))
    off = shapely.distance(points, rim)
    back = shapely.distance(shapely.points(shapely.get_coordinates(rim.segmentize(1.0))), told.boundary)
    outside = off[~shapely.contains(truth, points)]
    return Told(
        float(max(off.max(), back.max())),
        float(outside.max(initial=0)),
        scrap.error_mm,
        abs(told.area / truth.area - 1),
        took,
    )


def scraps(count: int) -> None:
    """Scraps: found, the outline's worst point, outwards against what is said, area, time."""
    for board in (False, True):
        found, missed = [], []
        for seed in range(count):
            told = scrap_case(seed, board)
            if isinstance(told, str):
                missed.append((seed, told))
            else:
                found.append(told)
        limit = 0.8 if board else 1.5
        worst = np.array([one.worst_mm for one in found])
        print(
            f"scraps by {'board' if board else 'A4'}: found {len(found) / count:.1%}, worst point within {limit} mm: "
            f"{(worst <= limit).mean():.1%} (median {np.median(worst):.2f}, most {worst.max():.2f}); farther out than "
            f"said: {sum(one.out_mm > one.said_mm for one in found)} (median said "
            f"{np.median([one.said_mm for one in found]):.2f} mm); "
            f"area within 1 %: {np.mean([one.area < 0.01 for one in found]):.1%} "
            f"(most {max(one.area for one in found):.2%}); seconds {np.median([one.seconds for one in found]):.2f}, "
            f"most {max(one.seconds for one in found):.2f}"
        )
        for seed, said in missed[:12]:
            print("   missed", seed, said)
        for seed, one in enumerate(found):
            if one.worst_mm > limit or one.out_mm > one.said_mm:
                print("   off", seed, one)


def layer_shape(luck) -> Region:
    """Return a layer of parts with counters, large and small, none nearer to another than 1.5 mm."""
    wide = luck.uniform(90, 220)
    parts: list[shapely.Polygon] = []
    tree = shapely.Polygon()
    for _ in range(400):
        if len(parts) >= 26:
            break
        size = float(np.exp(luck.uniform(np.log(0.7), np.log(wide / 6))))
        at = luck.uniform(-1, 1, 2) * (wide / 2, wide / 3)
        kind = luck.integers(4)
        if kind == 0:
            one = shapely.Point(at).buffer(size)
        elif kind == 1:
            one = affinity.rotate(
                shapely.box(*(at - np.array([size, size / 2])), *(at + np.array([size, size / 2]))),
                luck.uniform(0, 180),
            )
        elif kind == 2:
            spikes = [
                at + size * (1 if k % 2 else 0.5) * np.array([np.cos(k * np.pi / 5), np.sin(k * np.pi / 5)])
                for k in range(10)
            ]
            one = shapely.Polygon(spikes)
        else:
            one = shapely.LineString(
                [at - np.array([size, 0]), at + np.array([0, size]), at + np.array([size, 0])]
            ).buffer(max(0.6, size / 4))
        if one.area < 1.2 or tree.distance(one) < 1.5:
            continue
        hole = one.buffer(-max(0.8, size * luck.uniform(0.2, 0.45)))
        if kind < 3 and not hole.is_empty and hole.area > 1.2 and luck.random() < 0.6:
            one = one.difference(hole)
        parts.append(one)
        tree = tree.union(shapely.Polygon(one.exterior))
    return as_region(shapely.union_all(parts))


@dataclass
class Tally:
    """Of parts and counters by size: how many faults there are, found, falsely told, not told."""

    faults: int = 0
    found: int = 0
    good: int = 0
    false: int = 0
    unsure: int = 0
    missed: int = 0


def weeding_case(seed: int, tallies: dict[str, Tally]) -> tuple[str | None, float, int, int, int]:
    """Look at one layer on its carrier; return what went wrong, the time, stray bits: there, found, falsely told."""
    luck = np.random.default_rng(seed)
    size = (620.0, 420.0)
    table = TABLES[int(luck.integers(len(TABLES)))]
    sheet, _ = frame(luck, size)
    layer = layer_shape(luck)
    mirrored = bool(luck.random() < 0.5)
    place = shift(195, 210) @ turn(float(luck.uniform(0, 360))) @ np.diag([-1.0 if mirrored else 1.0, 1.0, 1.0])
    colour = film_unlike(luck, table, 28.0)
    missing = {k for k in range(len(layer.geoms)) if luck.random() < 0.12}
    if len(missing) > len(layer.geoms) // 3:
        missing = set()
    left, film = set(), []
    number = 0
    for k, part in enumerate(layer.geoms):
        whole = part
        for ring in part.interiors:
            number += 1
            if luck.random() < 0.2:
                left.add(number)
                whole = whole.union(shapely.Polygon(ring))
        if k not in missing:
            film.append(whole)
    hull = layer.convex_hull
    stray = []
    for _ in range(int(luck.integers(0, 3))):
        at = luck.uniform(hull.bounds[:2], hull.bounds[2:])
        bit = shapely.box(*(at - luck.uniform(0.6, 3)), *(at + luck.uniform(0.6, 3)))
        if (
            layer.distance(bit) > 2.5
            and shapely.MultiPolygon([shapely.Polygon(p.exterior) for p in layer.geoms]).distance(bit) > 2.5
        ):
            stray.append(bit)
    carrier = Thing(
        as_region(shapely.transform(shapely.box(*hull.buffer(14).bounds), lambda s: mapped(place, s))),
        "#ffffff",
        "carrier",
    )
    there = as_region(shapely.union_all([*film, *stray]))
    laid = as_region(shapely.transform(there, lambda spots: mapped(place, spots)))
    view = seen(Scene(size, table, (carrier, Thing(laid, colour), sheet)), look_at(luck, seed % 2 == 0))
    began = time.perf_counter()
    try:
        told = judge_weeding(view.picture, "a4", layer, colour, mirrored=mirrored)
    except PhotoError as error:
        return f"{table} {colour}: {error}", time.perf_counter() - began, 0, 0, 0
    took = time.perf_counter() - began
    for one in told.parts:
        _count(
            tallies,
            one.area_mm2,
            fault=one.number - 1 in missing,
            told={"there": False, "missing": True}.get(one.state),
        )
    for one in told.counters:
        _count(tallies, one.area_mm2, fault=one.number in left, told={"out": False, "left": True}.get(one.state))
    spots = [shapely.Point(one.at) for one in told.stray]
    hit = sum(any(bit.buffer(1.5).contains(spot) for spot in spots) for bit in stray)
    false = sum(not any(bit.buffer(1.5).contains(spot) for bit in stray) for spot in spots)
    return None, took, len(stray), hit, false


def _count(tallies: dict[str, Tally], area: float, *, fault: bool, told: bool | None) -> None:
    tally = tallies["3 mm2 and more" if area >= 3 else "1 to 3 mm2" if area >= 1 else "less"]
    tally.faults += fault
    tally.good += not fault
    tally.unsure += told is None
    tally.found += fault and told is True
    tally.missed += fault and told is False
    tally.false += not fault and told is True


def weeding(count: int) -> None:
    """Weeding: parts missing and counters left, found and falsely told, by size; stray film; time."""
    tallies = {name: Tally() for name in ("3 mm2 and more", "1 to 3 mm2", "less")}
    rows = [(seed, *weeding_case(seed, tallies)) for seed in range(count)]
    for name, tally in tallies.items():
        if tally.faults:
            print(
                f"weeding, {name}: {tally.found / tally.faults:.1%} of {tally.faults} faults found, {tally.missed} "
                f"told as good; of {tally.good} good ones {tally.false / tally.good:.2%} falsely told; can't tell "
                f"{tally.unsure / (tally.faults + tally.good):.1%}"
            )
    wrong = [(seed, said) for seed, said, *_ in rows if said is not None]
    there, hit, false = (sum(row[k] for row in rows) for k in (3, 4, 5))
    took = [row[2] for row in rows]
    print(f"stray: {hit} of {there} found, {false} falsely told; {len(wrong)} pictures refused")
    print(f"seconds {np.median(took):.2f}, most {max(took):.2f}")
    for seed, said in wrong[:10]:
        print("   refused", seed, said)


def laid_case(seed: int) -> tuple[float, float, float, float, float] | str:
    """Look at a piece laid on a tee; return how far off it is told, what is said of that, and the time."""
    luck = np.random.default_rng(seed)
    plan = demo_document().plan
    composed = plan.garments[0].compositions[0]
    row = composed.layers[int(luck.integers(len(composed.layers)))]
    panel, piece = composed.panel.region, moved(row.layer.region, composed.placement.matrix)
    table = TABLES[int(luck.integers(len(TABLES)))]
    cloth = CLOTHS[int(luck.integers(len(CLOTHS)))]
    if min(colour_difference(cloth, table), colour_difference(cloth, row.film.colour)) < 22:
        return laid_case(seed + 100_000)
    aside, down, turned = luck.uniform(-12, 12), luck.uniform(-12, 12), luck.uniform(-4, 4)
    middle = piece.centroid
    off = shift(aside, down) @ shift(middle.x, middle.y) @ turn(turned) @ shift(-middle.x, -middle.y)
    left, top, right, bottom = panel.bounds
    place = shift(60 - left, 60 - top) @ turn(float(luck.uniform(-4, 4)))
    size = (right - left + 400, bottom - top + 140)
    sheet = sheet_at("a4", shift(right - left + 230, 300) @ turn(float(luck.uniform(-8, 8))))
    things = (Thing(moved(panel, place), cloth, "cloth"), Thing(moved(piece, place @ off), row.film.colour), sheet)
    view = seen(Scene(size, table, things), look_at(luck, seed % 2 == 0))
    began = time.perf_counter()
    try:
        told = judge_laid(view.picture, "a4", panel, piece, row.film.colour)
    except PhotoError as error:
        return f"{table} {cloth} {row.film.colour}: {error}"
    took = time.perf_counter() - began
    shift_off = float(np.hypot(told.aside_mm - aside, told.down_mm - down))
    return shift_off, abs(told.turn_deg - turned), told.error_mm, told.error_deg, took


def laid_right(count: int) -> None:
    """Laid: shift and turn of a piece on a tee, and whether the errors that are said hold."""
    rows = [(seed, laid_case(seed)) for seed in range(count)]
    told = np.array([row for _, row in rows if not isinstance(row, str)])
    held = (told[:, 0] <= told[:, 2]) & (told[:, 1] <= told[:, 3])
    print(
        f"laid: {len(told)} of {count} told; shift within 1.5 mm {(told[:, 0] <= 1.5).mean():.1%} (median "
        f"{np.median(told[:, 0]):.2f}, most {told[:, 0].max():.2f}); turn within 0.4 degrees "
        f"{(told[:, 1] <= 0.4).mean():.1%} (most {told[:, 1].max():.2f}); the errors said hold {held.mean():.1%} "
        f"(median {np.median(told[:, 2]):.2f} mm, {np.median(told[:, 3]):.2f} degrees); "
        f"seconds {np.median(told[:, 4]):.2f}"
    )
    for seed, said in rows:
        if isinstance(said, str):
            print("   refused", seed, said)


CASES = {"scraps": scraps, "weeding": weeding, "laid": laid_right}


def run() -> None:
    """Eye: what a camera tells, on pictures of a renderer that is not the stand-in's own."""
    words = [word for word in sys.argv[2:] if word in CASES] or list(CASES)
    counts = [int(word) for word in sys.argv[2:] if word.isdigit()]
    for word in words:
        CASES[word](counts[0] if counts else PICTURES)

"""A judge of mends with a geometry of its own: dots, counted and compared; it shares no code with the proofs.

Before and after are looked at as they are cut: the outlines of every layer, by film, painted at so many dots to the mm.
"""

import re
from dataclasses import dataclass

import cv2
import numpy as np
import shapely
import shapely.affinity
from PIL import Image, ImageDraw
from scipy import ndimage

from zinnet.bench.document import Document

DOTS = 6
"""Dots to the mm of a whole design."""
FINE_DOTS = 12
"""Dots to the least width that is looked for."""
LEAST_DOTS = 10
"""Parts and holes of fewer dots are the rounding of an edge."""
EIGHT = np.ones((3, 3), dtype=int)
SAME_GLYPHS = 0.75
OUT_MM = 0.3


@dataclass(frozen=True)
class Picture:
    """What is cut from one film: its mask, one dot a sixth of a mm."""

    film: str
    finish: str
    mask: np.ndarray


def pictures(document: Document) -> dict[str, Picture]:
    """Return what is cut of every colour on the job's own size."""
    found = {}
    for design in document.plan.garments[0].designs:
        if design.split is None:
            continue
        wide, high = design.split.width_mm, design.split.height_mm
        for row in design.layers:
            film = row.film
            name = "" if film is None else film.name
            found[f"{design.index} {row.key}"] = Picture(name, _finish(film), _painted(row.seen, wide, high))
    return found


def _finish(film) -> str:
    if film is None:
        return ""
    from zinnet.films.catalogue import film_kinds

    return film_kinds()[film.kind].finish


def _painted(region, wide: float, high: float) -> np.ndarray:
    return np.pad(_painted_at(region, wide, high, DOTS), 4)


def _painted_at(region, wide: float, high: float, dots: float) -> np.ndarray:
    picture = Image.new("1", (int(wide * dots) + 1, int(high * dots) + 1))
    draw = ImageDraw.Draw(picture)
    parts = [part for part in getattr(region, "geoms", [region]) if part.geom_type == "Polygon" and not part.is_empty]
    for part in sorted(parts, key=lambda part: -part.area):
        draw.polygon([(x * dots, y * dots) for x, y in part.exterior.coords], fill=1)
        for hole in part.interiors:
            draw.polygon([(x * dots, y * dots) for x, y in hole.coords], fill=0)
    return np.array(picture, dtype=bool)


def counts(mask: np.ndarray) -> tuple[int, int]:
    """Return how many parts a mask has, and how many holes."""
    parts, number = ndimage.label(mask, structure=EIGHT)
    large = np.bincount(parts.ravel(), minlength=number + 1)[1:] >= LEAST_DOTS
    holes, many = ndimage.label(~mask)
    sizes = np.bincount(holes.ravel(), minlength=many + 1)[1:]
    return int(large.sum()), int((sizes >= LEAST_DOTS).sum()) - 1


def judge(before: Document, after: Document, finding_id: str, name: str) -> list[str]:
    """Return what a mend of this name did wrong: it left its fault, lost or changed something, or made it worse."""
    wrong = [*_left(after, before, finding_id), *_graver(before, after, finding_id)]
    if _artwork_is_the_same(before, after):
        wrong += [*lost(before, after, name)]
    wrong += [*films_changed(before, after, name), *_off_the_panel(before, after)]
    return wrong


def _artwork_is_the_same(before: Document, after: Document) -> bool:
    return [one.source for one in before.job.designs] == [one.source for one in after.job.designs]


def _said(name: str, word: str) -> int:
    found = re.search(rf"\b{word} (\d+) ", name + " ")
    return int(found.group(1)) if found else 0


def lost(before: Document, after: Document, name: str):
    """Yield which parts and counters are lost, and which drawing is another one."""
    old, new = pictures(before), pictures(after)
    was, now = (np.array([counts(one.mask) for one in each.values()]).sum(axis=0) for each in (old, new))
    dropped, filled = was - now
    given = _said(name, "give")
    if -_specks(before) <= dropped < 0:
        dropped = 0
    if abs(dropped - _said(name, "drop") - _said(name, "bridge")) > given or abs(filled - _said(name, "fill")) > given:
        yield f"{dropped} parts and {filled} counters are lost"
    for key, one in old.items():
        other = new.get(key)
        if other is not None and not _said(name, "drop"):
            share = _alike(one.mask, other.mask)
            if share < SAME_GLYPHS:
                yield f"{key} is no longer the same drawing: {share:.0%}"


def _specks(document: Document) -> int:
    """Return how many parts are too small to be seen in dots: enlarged, they are."""
    rows = [row for design in document.plan.garments[0].designs for row in design.layers]
    return sum(part.area < LEAST_DOTS / DOTS**2 for row in rows for part in row.seen.geoms)


def _alike(one: np.ndarray, other: np.ndarray) -> float:
    """Return which share of two drawings, brought to one size, is the same."""
    boxes = [np.argwhere(mask) for mask in (one, other)]
    if not len(boxes[0]) or not len(boxes[1]):
        return 0.0
    small = []
    for mask, at in zip((one, other), boxes, strict=True):
        (top, left), (bottom, right) = at.min(axis=0), at.max(axis=0) + 1
        small.append(np.array(Image.fromarray(mask[top:bottom, left:right]).resize((400, 400)), dtype=bool))
    return float((small[0] & small[1]).sum() / (small[0] | small[1]).sum())


def films_changed(before: Document, after: Document, name: str):
    """Yield what comes to another film, or to another finish, that the mend's name does not name."""
    old, new = pictures(before), pictures(after)
    for key, one in new.items():
        was = old.get(key)
        if was is None or was.film in ("", one.film):
            continue
        if one.film not in name:
            yield f"{key} comes from {one.film} instead of {was.film}"
        if one.finish != was.finish and one.finish not in name:
            yield f"{key} turns from {was.finish} to {one.finish}"
    if len({one.film for one in new.values()}) < len({one.film for one in old.values()}) and len(old) == len(new):
        yield "two films became one"


def _off_the_panel(before: Document, after: Document):
    if _outside(after) > _outside(before) + OUT_MM:
        yield "it reaches off the panel"


def _outside(document: Document) -> float:
    """Return how far artwork reaches beyond the box of its panel."""
    worst = 0.0
    for garment in document.plan.garments:
        for design in garment.designs:
            if design.art is None or design.art.is_empty:
                continue
            art, panel = np.array(design.art.bounds), np.array(design.panel.region.bounds)
            worst = max(worst, float(np.max([panel[:2] - art[:2], art[2:] - panel[2:]])))
    return worst


def _left(after: Document, before: Document, finding_id: str):
    """Yield whether the fault is still there: measured on the masks where outlines are meant, else by its numbers."""
    measured = MEASURED.get(finding_id)
    if measured is not None:
        problem = measured(before, after)
        if problem:
            yield problem
    elif finding_id in {one.id for one in after.plan.findings if one.level in ("stop", "warn")} and (
        sum(one.id == finding_id for one in after.plan.findings)
        >= sum(one.id == finding_id for one in before.plan.findings)
    ):
        yield "it is found again"


def _graver(before: Document, after: Document, besides: str):
    old, new = ({one.id for one in each.plan.findings if one.level in ("stop", "warn")} for each in (before, after))
    for fresh in sorted(new - old - {besides}):
        if fresh not in LATER:
            yield f"new: {fresh}"


LATER = ("no-test-cut", "blank-not-measured", "no-spare")
"""What is said only once something is nested."""


def _disc(width_mm: float, dots: float) -> np.ndarray:
    radius = width_mm * dots / 2
    size = int(radius) + 1
    y, x = np.mgrid[-size : size + 1, -size : size + 1]
    return x * x + y * y <= radius * radius


def _thin(document: Document, limit_of, strokes: bool, spot) -> float:
    """Return the area, in mm², that a disc of the film's least width can't reach about a spot; corners count little.

    The spot is a box in shares of the design's width, so that it is the same one at another size.
    """
    total = 0.0
    for design in document.plan.garments[0].designs:
        for row in design.layers if design.split is not None else ():
            if row.film is None:
                continue
            limit = limit_of(row.film)
            dots = max(DOTS, FINE_DOTS / limit)
            left, top, right, bottom = np.array(spot) * design.split.width_mm + np.array([-2, -2, 2, 2]) * limit
            near = shapely.intersection(row.layer.region, shapely.box(left, top, right, bottom))
            near = shapely.affinity.translate(near, -left, -top)
            mask = _painted_at(near, right - left, bottom - top, dots)
            mask = mask if strokes else ~mask
            inner = int(limit * dots)
            core = ndimage.binary_opening(np.pad(mask, inner, mode="edge"), structure=_disc(limit * 0.9, dots))
            core = core[inner:-inner, inner:-inner]
            rest, number = ndimage.label(mask & ~core, structure=EIGHT)
            sizes = np.bincount(rest.ravel(), minlength=number + 1)[1:]
            total += sizes[sizes >= (limit * dots) ** 2].sum() / dots**2
    return float(total)


WHOLE_DOTS = 10
"""Dots to the mm where a whole design is looked over."""
GAP_RUN = 2
"""A gap counts that is too narrow over so many times its width; a notch's tip does not."""


def fine_places(document: Document):
    """Yield what is too fine for its film anywhere in a job's first design: strokes, gaps, and parts and holes."""
    design = document.plan.garments[0].designs[0]
    wide, high = design.split.width_mm, design.split.height_mm
    for row in design.layers:
        mask = np.pad(_painted_at(row.layer.region, wide, high, WHOLE_DOTS), WHOLE_DOTS)
        for what, limit, shown in (("strokes", _stroke(row.film), mask), ("gaps", _gap(row.film), ~mask)):
            rest, number = ndimage.label(shown & ~_rolled(shown, limit * 0.9 * WHOLE_DOTS), structure=EIGHT)
            sizes = np.bincount(rest.ravel(), minlength=number + 1)[1:]
            least = GAP_RUN if what == "gaps" else 1
            many = int((sizes >= least * (limit * WHOLE_DOTS) ** 2).sum())
            if many:
                yield f"{many} {what} of {row.film.name} finer than {limit:g} mm"


def _rolled(mask: np.ndarray, across: float) -> np.ndarray:
    """Return where a disc so many dots across reaches within a mask."""
    core = cv2.distanceTransform(mask.astype(np.uint8), cv2.DIST_L2, cv2.DIST_MASK_PRECISE) >= across / 2
    return cv2.distanceTransform((~core).astype(np.uint8), cv2.DIST_L2, cv2.DIST_MASK_PRECISE) <= across / 2


def _stroke(film) -> float:
    from zinnet.films.catalogue import film_kinds

    return film_kinds()[film.kind].least_stroke_mm


def _gap(film) -> float:
    from zinnet.films.catalogue import film_kinds

    kind = film_kinds()[film.kind]
    return max(kind.least_gap_mm, 2 * kind.growth_mm)


def _spot(before: Document, finding_id: str):
    """Return where a fault was, in shares of its design's width."""
    place = next(one.place for one in before.plan.findings if one.id == finding_id)
    return np.array(place.box) / before.plan.garments[0].designs[place.design].split.width_mm


def _no_longer_thin(before: Document, after: Document) -> str:
    left = _thin(after, _stroke, True, _spot(before, "too-thin"))
    return f"{left:.2f} mm² are still too thin" if left > 0.05 else ""


def _no_longer_tight(before: Document, after: Document) -> str:
    left = _thin(after, _gap, False, _spot(before, "gap-will-close"))
    return f"{left:.2f} mm² of gaps are still too narrow" if left > 0.05 else ""


def _centred(before: Document, after: Document) -> str:
    art = after.plan.garments[0].designs[0].art
    left, _, right, _ = art.bounds
    return "" if abs(left + right) / 2 <= 2.0 else f"the middle is {(left + right) / 2:.1f} mm off"


def _level(before: Document, after: Document) -> str:
    corners = after.plan.garments[0].designs[0].placement.corners
    across = np.array(corners[1]) - np.array(corners[0])
    angle = np.degrees(np.arctan2(across[1], across[0]))
    return "" if abs(angle) <= 0.5 else f"it lies at {angle:.1f} degrees"


def _proportions(before: Document, after: Document) -> str:
    left, top, right, bottom = after.plan.garments[0].designs[0].art.bounds
    return "" if abs((bottom - top) / (right - left) - 0.64) < 0.02 else "it is still out of proportion"


def _readable(before: Document, after: Document) -> str:
    colours = {film.name: film.colour for film in after.workshop.films}
    blank = after.plan.blank.colour
    worst = min(_ratio(colours[one.film], blank) for one in pictures(after).values())
    return "" if worst >= 1.5 else f"{worst:.2f} to 1 is left"


def _ratio(one: str, other: str) -> float:
    """Return the contrast of two colours (WCAG 2.2, relative luminance and contrast ratio)."""
    light, dark = sorted((_luminance(one), _luminance(other)), reverse=True)
    return (light + 0.05) / (dark + 0.05)


def _luminance(colour: str) -> float:
    channels = np.array([int(colour[k : k + 2], 16) / 255 for k in (1, 3, 5)])
    linear = np.where(channels <= 0.04045, channels / 12.92, ((channels + 0.055) / 1.055) ** 2.4)
    return float(linear @ (0.2126, 0.7152, 0.0722))


MEASURED = {
    "too-thin": _no_longer_thin,
    "gap-will-close": _no_longer_tight,
    "off-centre": _centred,
    "tilted": _level,
    "stretched": _proportions,
    "hard-to-read": _readable,
}
"""What a fault is measured by, where the judge has a measure of its own."""

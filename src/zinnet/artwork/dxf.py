"""Reading DXF into artwork: lines, arcs, splines, polylines, hatches and blocks, one shape per colour."""

import io
import math
from collections import Counter
from collections.abc import Iterator
from typing import Any

import numpy as np
from numpy.typing import NDArray

from zinnet.artwork.model import Artwork, Paint, Remark, RemarkCode, Shape
from zinnet.base.errors import ArtworkError
from zinnet.geometry.curves import Subpath, lines_as_cubics
from zinnet.geometry.transform import affine

MOST_ENTITIES = 20_000
MOST_CURVES = 150_000
JOIN_SHARE = 1e-5
"""Ends nearer than this share of the drawing's size are one point."""
FARTHEST = 1e7
MM_PER_UNIT = {1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0, 13: 0.001, 14: 100.0}
"""DXF's $INSUNITS: inches, feet, mm, cm, m, micrometres, dm (DXF reference, HEADER section)."""
MESSAGES: dict[RemarkCode, str] = {
    "text": "text that is not yet outlines; turn it into outlines in the program that made it",
    "picture": "a picture, which has no outline to cut; trace it",
    "open-outline": "an outline that does not close; it was filled as if closed",
    "left-out": "an entity that can't be cut and was left out",
}
BLACK = "#1a1a1a"
Y_UP = affine(1, 0, 0, -1, 0, 0)
Cubics = NDArray[np.float64]


def read_dxf(data: bytes, name: str = "The artwork") -> Artwork:
    """Return the artwork of a DXF file, in its drawing units with y down.

    Outlines of one colour are one shape, filled by the even-odd rule, so that an outline within another is a hole.
    Lines whose ends meet become one outline. Raises :class:`ArtworkError` where the file can't be read, is too
    large or holds nothing.
    """
    import ezdxf.recover

    try:
        drawing, _ = ezdxf.recover.read(io.BytesIO(data))
        runs, remarks = _Reader(drawing, name).read()
        unit = MM_PER_UNIT.get(int(drawing.header.get("$INSUNITS", 0)))
    except ArtworkError:
        raise
    except RecursionError:
        raise ArtworkError(f"{name} nests blocks too deeply; explode them and save it again.") from None
    except Exception:  # noqa: BLE001 - damage makes ezdxf raise nearly anything, its assertions too
        raise ArtworkError(f"{name} is not a DXF that can be read; export it again, as DXF R2000 or later.") from None
    shapes = []
    for number, (colour, curves) in enumerate(runs.items()):
        subpaths = tuple(_outlines(curves, remarks))
        if subpaths:
            shapes.append(Shape(f"colour-{number + 1}", subpaths, Y_UP, Paint(colour), "evenodd", None))
    if not shapes and not remarks["picture"]:
        hint = " Its text must be turned into outlines first." if remarks["text"] else ""
        raise ArtworkError(f"{name} holds nothing to cut: no line, arc, polyline or hatch.{hint}")
    said = tuple(Remark(code, MESSAGES[code], count) for code, count in remarks.items() if count)
    return Artwork(tuple(shapes), None, unit, said, (b"",) * remarks["picture"])


class _Reader:
    """One walk over one drawing."""

    def __init__(self, drawing: Any, name: str) -> None:
        self.drawing, self.name = drawing, name
        self.remarks: Counter[RemarkCode] = Counter()
        self.runs: dict[str, list[Cubics]] = {}
        self.curves = 0

    def read(self) -> tuple[dict[str, list[Cubics]], Counter[RemarkCode]]:
        """Return the runs of curves (n, 4, 2) by colour, in the drawing's order."""
        from ezdxf.disassemble import recursive_decompose

        for count, entity in enumerate(recursive_decompose(self.drawing.modelspace())):
            if count >= MOST_ENTITIES:
                raise ArtworkError(f"{self.name} holds more than {MOST_ENTITIES} entities; open a part of it.")
            self._take(entity)
        return self.runs, self.remarks

    def _take(self, entity: Any) -> None:
        from ezdxf import path as dxf_path

        kind = entity.dxftype()
        if kind in ("TEXT", "MTEXT", "ATTRIB", "ATTDEF"):
            self.remarks["text"] += 1
            return
        if kind in ("IMAGE", "WIPEOUT"):
            self.remarks["picture"] += 1
            return
        try:
            paths = dxf_path.from_hatch(entity) if kind in ("HATCH", "MPOLYGON") else [dxf_path.make_path(entity)]
            found = [curves for path in paths for curves in _cubics(path)]
        except (TypeError, ValueError, ArithmeticError, AttributeError):
            if kind not in ("POINT", "VIEWPORT"):
                self.remarks["left-out"] += 1
            return
        self.curves += sum(map(len, found))
        if self.curves > MOST_CURVES:
            raise ArtworkError(f"{self.name} holds more than {MOST_CURVES} curves; simplify it.")
        self.runs.setdefault(self._colour(entity), []).extend(found)

    def _colour(self, entity: Any) -> str:
        """Return the colour of an entity: its own, else its layer's; the paper's opposite is black."""
        from ezdxf import colors

        if entity.dxf.hasattr("true_color"):
            return "#{:02x}{:02x}{:02x}".format(*colors.int2rgb(entity.dxf.true_color))
        index = entity.dxf.get("color", colors.BYLAYER)
        if index in (colors.BYLAYER, colors.BYBLOCK):
            layer = self.drawing.layers.get(entity.dxf.layer) if entity.dxf.layer in self.drawing.layers else None
            index = abs(layer.dxf.color) if layer is not None else 7
        if index in (0, 7) or not 1 <= index <= 255:
            return BLACK
        return "#{:02x}{:02x}{:02x}".format(*colors.aci2rgb(index))


def _cubics(path: Any) -> Iterator[Cubics]:
    """Yield each run of a path as cubics (n, 4, 2)."""
    from ezdxf.path import Command

    for part in path.sub_paths():
        here, rows = part.start, []
        for command in part.commands():
            end = command.end
            if command.type == Command.CURVE4_TO:
                controls = [command.ctrl1, command.ctrl2]
            elif command.type == Command.CURVE3_TO:
                controls = [here + (command.ctrl - here) * (2 / 3), end + (command.ctrl - end) * (2 / 3)]
            else:
                controls = [here + (end - here) / 3, end + (here - end) / 3]
            rows.append([(point.x, point.y) for point in (here, *controls, end)])
            here = end
        curves = np.array(rows, dtype=np.float64)
        if len(rows) and np.isfinite(curves).all() and float(np.abs(curves).max()) < FARTHEST:
            yield curves


def _outlines(curves: list[Cubics], remarks: Counter[RemarkCode]) -> Iterator[Subpath]:
    """Yield closed outlines: runs that close by themselves, and runs whose ends meet put together."""
    everything = np.concatenate([run.reshape(-1, 2) for run in curves])
    near = max(float(np.ptp(everything, axis=0).max()) * JOIN_SHARE, 1e-9)
    loose: list[Cubics] = []
    for run in curves:
        if math.dist(run[0, 0], run[-1, 3]) <= near and (len(run) > 1 or np.ptp(run, axis=1).max() > near):
            yield Subpath(run, closed=True)
        else:
            loose.append(run)
    for chain in _chains(loose, near):
        gap = math.dist(chain[0, 0], chain[-1, 3])
        if len(chain) < 2:
            remarks["left-out"] += 1
            continue
        if gap > near:
            remarks["open-outline"] += 1
        closing = lines_as_cubics(np.array([chain[-1, 3], chain[0, 0]]))
        yield Subpath(np.concatenate([chain, closing]) if gap > 0 else chain, closed=True)


def _chains(runs: list[Cubics], near: float) -> Iterator[Cubics]:
    """Yield runs put end to end where their ends are the same point, turned round where that is needed."""
    ends: dict[tuple[int, int], list[tuple[int, bool]]] = {}
    for index, run in enumerate(runs):
        for is_end, point in ((False, run[0, 0]), (True, run[-1, 3])):
            ends.setdefault(_cell(point, near), []).append((index, is_end))
    used: set[int] = set()
    for index, run in enumerate(runs):
        if index in used:
            continue
        used.add(index)
        chain = [run]
        for _ in (0, 1):
            while (after := _next(chain[-1][-1, 3], runs, ends, used, near)) is not None:
                chain.append(after)
            chain = [one[::-1, ::-1] for one in chain[::-1]]
        yield np.concatenate(chain)


def _cell(point: NDArray[np.float64], near: float) -> tuple[int, int]:
    return round(float(point[0]) / (4 * near)), round(float(point[1]) / (4 * near))


def _next(
    point: NDArray[np.float64],
    runs: list[Cubics],
    ends: dict[tuple[int, int], list[tuple[int, bool]]],
    used: set[int],
    near: float,
) -> Cubics | None:
    """Return the run that goes on from a point, in the direction away from it; it is used from then on."""
    column, row = _cell(point, near)
    for x in (column - 1, column, column + 1):
        for y in (row - 1, row, row + 1):
            for index, is_end in ends.get((x, y), ()):
                run = runs[index]
                start = run[-1, 3] if is_end else run[0, 0]
                if index not in used and math.dist(start, point) <= near:
                    used.add(index)
                    return run[::-1, ::-1] if is_end else run
    return None

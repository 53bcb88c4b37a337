"""Cut files as HP-GL: pen moves in units of 0.025 mm, y up from the lower left corner of the mat."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zinnet.base.stages import stage
from zinnet.cutting.knife import Knife, aligning_stroke, axis_path, heading_after, with_overcut
from zinnet.cutting.paths import CutPath, CutSheet

UNITS_PER_MM = 40
"""HP-GL's plotter unit is 0.025 mm (HP-GL/2 reference)."""
MOST_POINTS = 30
"""How many points one command has at most, so that small buffers take it."""
Units = tuple[int, int]


NO_KNIFE = Knife()


@dataclass(frozen=True)
class Setup:
    """How a machine is told to cut: its knife, and force and speed where it takes commands for them."""

    knife: Knife = NO_KNIFE
    force_g: float | None = None
    speed_mm_s: float | None = None
    passes: int = 1


@dataclass(frozen=True)
class Block:
    """The commands that cut one line, and where the head stands after them, in plotter units."""

    path: CutPath
    text: str
    end: Units


@dataclass(frozen=True)
class Program:
    """An HP-GL program in parts: what sets the machine up, a block for each line, and what ends it."""

    head: str
    blocks: tuple[Block, ...]
    foot: str

    @property
    def text(self) -> str:
        """The whole program."""
        return self.head + "".join(block.text for block in self.blocks) + self.foot


def cut_hpgl(sheet: CutSheet, setup: Setup | None = None) -> str:
    """Return the HP-GL program that cuts a mat."""
    return program_of(sheet, setup).text


def program_of(sheet: CutSheet, setup: Setup | None = None) -> Program:
    """Return the program that cuts a mat, part by part.

    Parameters
    ----------
    sheet : CutSheet, mm
        Lines as they are cut.
    setup : Setup
        Knife, force, speed and passes; None for a knife without offset and the machine's own.

    Returns
    -------
    Program, plotter units
        A head, a block for each line and a tail, so that a broken run can go on.
    """
    setup = setup or Setup()
    head = ["IN;DF;PA;SP1;"]
    if setup.speed_mm_s is not None:
        head.append(f"VS{setup.speed_mm_s / 10:.4g};")
    if setup.force_g is not None:
        head.append(f"FS{setup.force_g:.0f};")
    if setup.knife.offset_mm > 0:
        begin, end = _in_units(aligning_stroke(setup.knife.offset_mm))
        head.append(f"PU{begin[0]},{begin[1]};PD{end[0]},{end[1]};PU;")
    return Program("\n".join(head) + "\n", tuple(_blocks(sheet, setup)), "PU0,0;\nSP0;\n")


def _blocks(sheet: CutSheet, setup: Setup) -> Iterator[Block]:
    heading = 0.0
    for path in sheet.paths:
        commands: list[str] = []
        end: Units | None = None
        for _ in range(setup.passes):
            points = with_overcut(path, setup.knife.overcut_mm) * (1, -1) + (0, sheet.height_mm)
            offset = setup.knife.offset_mm
            way = _in_units(axis_path(points, offset, heading) if offset > 0 else points)
            if offset > 0:
                heading = heading_after(np.array(way) / UNITS_PER_MM, offset, heading)
            first, *rest = way
            if not rest:
                continue
            commands.append(f"PU{first[0]},{first[1]};")
            for k in range(0, len(rest), MOST_POINTS):
                commands.append("PD" + ",".join(f"{x},{y}" for x, y in rest[k : k + MOST_POINTS]) + ";")
            end = rest[-1]
        if end is not None:
            yield Block(path, "\n".join(commands) + "\n", end)


def _in_units(points: NDArray[np.float64]) -> tuple[Units, ...]:
    """Return the points in plotter units, those that round to the one before left out."""
    return _rounded(np.ascontiguousarray(points).tobytes())


@stage(most=4096)
def _rounded(points: bytes) -> tuple[Units, ...]:
    rounded = np.rint(np.frombuffer(points).reshape(-1, 2) * UNITS_PER_MM).astype(int)
    keep = np.ones(len(rounded), dtype=bool)
    keep[1:] = (np.diff(rounded, axis=0) != 0).any(axis=1)
    return tuple((x, y) for x, y in rounded[keep].tolist())

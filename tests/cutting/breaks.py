"""Mats sent to the stand-in over a real pseudo-terminal while something fails, and what became of each line."""

from dataclasses import replace

import numpy as np
import shapely

from zinnet.cutting.hpgl import UNITS_PER_MM, program_of
from zinnet.cutting.link import Sending, rest_of
from zinnet.cutting.order import in_cutting_order
from zinnet.cutting.paths import CutSheet, Shape, file_order
from zinnet.cutting.ports import PortSettings
from zinnet.cutting.settings import CutSettings
from zinnet.cutting.stand_in.cutter import FAILURES, Failure, StandIn
from zinnet.cutting.stand_in.port import StandInPort
from zinnet.geometry.region import as_region

SETTINGS = CutSettings(force_g=90, blade_mm=0.15, speed_mm_s=200)
NEAR_MM = 0.02
MOST_RUNS = 6


def random_program(rng):
    """Return the program of a mat with a few boxes and discs."""
    shapes = []
    for k in range(int(rng.integers(2, 9))):
        x, y = (k % 4) * 30 + 5, (k // 4) * 30 + 5
        box = shapely.box(x, y, x + rng.uniform(5, 20), y + rng.uniform(5, 20))
        disc = shapely.Point(x + 10, y + 10).buffer(rng.uniform(3, 10))
        shapes.append(Shape(f"piece-{k}", "cream", as_region(box if rng.random() < 0.5 else disc)))
    return program_of(CutSheet("mat", 150, 150, in_cutting_order(file_order(shapes), (0.0, 150.0))))


class Chatty(StandIn):
    """A cutter that says more than it is asked: what it said before once more, that all is well, or where it is not."""

    def __init__(self, seed, share=0.2):
        super().__init__(seed=seed)
        self.chance, self.share, self.strays = np.random.default_rng(seed), share, 0

    def answers(self):
        """Return what is answered, now and then with more."""
        said = super().answers()
        found = b""
        for line in said.split(b"\r")[:-1]:
            found += line + b"\r"
            if self.chance.random() < self.share:
                self.strays += 1
                found += (line, b"0", b"16", b"1,2,3")[int(self.chance.integers(4))] + b"\r"
        return found


def doubled(program):
    """Return a program in which every line comes twice, as where film is cut by two passes."""
    blocks = tuple(
        replace(block, path=replace(block.path, name=f"{block.path.name}-{turn}"))
        for block in program.blocks
        for turn in (1, 2)
    )
    return replace(program, blocks=blocks)


def send_to_chatty(seed):
    """Send a mat to a cutter that says more than it is asked; return what was reported, and the cutter.

    No line is taken for cut that is not, and none for not begun that is.
    """
    program = doubled(random_program(np.random.default_rng(seed)))
    cutter = Chatty(seed)
    with StandInPort(cutter, times=None) as port:
        report = Sending(program, PortSettings(port.name, answer_s=0.25), SETTINGS).start().wait(30)
        strokes = list(cutter.head.strokes)
    names = [block.path.name for block in program.blocks]
    assert sorted((*report.done, *report.doubtful, *report.left)) == sorted(names)
    for first, second in zip(program.blocks[::2], program.blocks[1::2], strict=True):
        count = times_cut(first, strokes)
        sure = sum(block.path.name in report.done for block in (first, second))
        begun = sum(block.path.name not in report.left for block in (first, second))
        assert sure <= count <= begun, (first.path.name, sure, count, begun)
    return report, cutter


def times_cut(block, strokes):
    """Return how many strokes go along the whole of a line."""
    numbers = [part.split(",") for part in block.text.replace("\n", "").replace("PU", "PD").split(";") if part]
    points = np.array([float(n) for part in numbers for n in (part[0][2:], *part[1:])]).reshape(-1, 2) / UNITS_PER_MM
    line = shapely.LineString(points)
    count = 0
    for stroke in strokes:
        if len(stroke.points) < 2:
            continue
        cut = shapely.LineString(stroke.points)
        if abs(cut.length - line.length) < NEAR_MM and shapely.hausdorff_distance(cut, line) < NEAR_MM:
            count += 1
    return count


def send_until_whole(seed, *, answer_s=0.25):
    """Send one random mat, break after break, and return the failures; raise where a line's end was not said.

    After each break the lines in doubt are cut again or left, at random; every other line must be cut exactly once.
    """
    rng = np.random.default_rng(seed)
    program = random_program(rng)
    done, said, again, strokes, kinds = [], set(), set(), [], []
    left = program
    for run in range(MOST_RUNS):
        breaks = run < 2 and rng.random() < 0.9
        kind = str(rng.choice(FAILURES))
        failure = Failure(kind, int(rng.integers(1, len(left.text) + 30))) if breaks else None
        cutter = StandIn(failure=failure, seed=seed)
        with StandInPort(cutter, times=None) as port:
            report = Sending(left, PortSettings(port.name, answer_s=answer_s), SETTINGS).start().wait(30)
        assert report.state in ("done", "failed"), report
        strokes += cutter.head.strokes
        kinds += cutter.errors
        done += report.done
        for block in left.blocks:
            count = times_cut(block, cutter.head.strokes)
            if block.path.name in report.done:
                assert count == 1, (kind, block.path.name, count)
            elif block.path.name in report.left:
                assert count == 0, (kind, block.path.name, count)
            else:
                assert block.path.name in report.doubtful, "every line is named"
        if report.is_whole:
            break
        assert len(report.reason) > 10
        said |= set(report.doubtful)
        chosen = [name for name in report.doubtful if rng.random() < 0.5]
        again |= set(chosen)
        left = rest_of(left, (*report.done, *report.doubtful), chosen)
    assert report.is_whole or not left.blocks
    for block in program.blocks:
        name = block.path.name
        if name not in said:
            assert done.count(name) == 1
            assert times_cut(block, strokes) == 1, name
    return kinds

"""Whole artwork of each kind, and ways to damage it."""

import functools
import io
import random
import re
from pathlib import Path

import ezdxf
import resvg_py

from tests.hostile.mutators import by_bytes
from zinnet.data import read_bytes

DEMOS = ("moth-and-lantern.svg", "moth.svg", "lantern-word.svg", "marshal-word.svg")
HOSTILE = (
    b"NaN", b"1e400", b"-1e308", b"99999999999", b"0", b"<g>", b"</g>", b"url(#a)", b"&lt;", b"\x00", b"%",
    b"matrix(0 0 0 0 0 0)", b'<use href="#a"/>', b'<text font-size="9e9">Moth</text>', b"<mask id='m'>", b"M",
    b"A1 1 0 1 1", b"z", b"-", b"..", b"e",
)  # fmt: skip
RICH = (Path(__file__).parent / "rich.svg").read_bytes()
"""A file with every feature that the reader knows."""
VALUE = re.compile(rb'"[^"<]*"')
STRANGE = (
    b"NaN",
    b"1e400",
    b"-1e30",
    b"1e-300",
    b"0",
    b"-",
    b"%",
    b"url(#m)",
    b"url(#a)",
    b"M",
    b"A",
    b"z",
    b"9999999",
    b",,",
    b"em",
)


@functools.cache
def seeds() -> list[tuple[str, bytes]]:
    """Return whole files of each kind, to be damaged."""
    found = [(name, read_bytes("demo", name)) for name in DEMOS] + [("rich.svg", RICH)] * 3
    for name in DEMOS[1:3]:
        png = bytes(resvg_py.svg_to_bytes(svg_string=read_bytes("demo", name).decode(), width=160))
        found.append((name.replace(".svg", ".png"), png))
    drawing = ezdxf.new("R2010", setup=True)
    space = drawing.modelspace()
    space.add_lwpolyline([(0, 0, 0.4), (60, 0), (60, 40), (0, 40)], close=True)
    space.add_circle((30, 20), 9)
    space.add_spline([(0, 0), (20, 30), (40, 5), (60, 20)])
    space.add_ellipse((30, 60), (20, 0), 0.4)
    space.add_hatch(color=1).paths.add_polyline_path([(0, 50), (10, 50), (10, 60)])
    block = drawing.blocks.new("MOTH")
    block.add_arc((0, 0), 5, 0, 200)
    space.add_blockref("MOTH", (20, 20), dxfattribs={"xscale": 2, "rotation": 30})
    text = io.StringIO()
    drawing.write(text)
    return [*found, ("walk.dxf", text.getvalue().encode())]


def damaged(data: bytes, rng: random.Random) -> bytes:
    """Return a file with a few bytes, stretches or values of it changed."""
    if data.lstrip().startswith(b"<") and rng.random() < 0.6:
        return _values_swapped(data, rng)
    return by_bytes(data, rng, HOSTILE)


def _values_swapped(data: bytes, rng: random.Random) -> bytes:
    """Return XML that stays whole, with some of its attributes' values put elsewhere or made strange."""
    values = VALUE.findall(data)
    chances = 3 / max(1, len(values))

    def other(match: re.Match[bytes]) -> bytes:
        if rng.random() > chances:
            return match[0]
        if rng.random() < 0.5:
            return rng.choice(values)
        inner = match[0][1:-1]
        at = rng.randrange(len(inner) + 1)
        return b'"' + inner[:at] + rng.choice(STRANGE) + inner[at + rng.randint(0, 3) :] + b'"'

    return VALUE.sub(other, data)

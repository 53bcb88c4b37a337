"""Sixty designs of the kinds that people make, drawn by chance."""

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from tests.helpers import svg
from zinnet.artwork.lettering.outlined_name import OutlinedNameSpec, OutlineRing
from zinnet.artwork.source import ArtworkFile, FileArt, OutlinedNameArt, Source

CREAM, AMBER, MINT, BRICK = "#f4ead5", "#e9a53a", "#8fd6b4", "#b4442f"
NAMES = ("Marlow", "Tilda", "Bexley", "Oriel", "Sunniva", "Pip", "Hollis", "Wren")
WORDS = ("LANTERN WALK", "STEWARD", "Reed band", "Moonlit", "WRENFIELD", "drummers", "Night watch")
FONTS = ("Atkinson Hyperlegible", "Bitter", "Comfortaa")


@dataclass(frozen=True, eq=False)
class SavedDesign:
    """A design: its kind, where it comes from, how wide it is laid (mm), and the words in it that stay whole."""

    name: str
    kind: str
    source: Source
    width_mm: float
    words: tuple[str, ...] = ()


def designs() -> Iterator[SavedDesign]:
    """Yield the designs, fifteen of each kind."""
    makers = {"words and motif": _words, "scattered": _scattered, "outlined name": _name, "three films": _picture}
    for kind, make in makers.items():
        for number in range(15):
            rng = np.random.default_rng([number, len(kind)])
            source, words = make(rng)
            width = float(rng.uniform(180, 280))
            yield SavedDesign(f"{kind.replace(' ', '-')}-{number + 1}", kind, source, width, words)


def _words(rng: np.random.Generator) -> tuple[Source, tuple[str, ...]]:
    upper, lower = (str(word) for word in rng.choice(WORDS, 2, replace=False))
    first, second = (str(colour) for colour in rng.choice((CREAM, AMBER, MINT), 2, replace=False))
    motif = _moth(140, 110, float(rng.uniform(40, 70)), second)
    body = _text(upper, 140, 42, 34, first, rng) + motif + _text(lower, 140, 222, 30, first, rng)
    return _file(body), (upper, lower)


def _scattered(rng: np.random.Generator) -> tuple[Source, tuple[str, ...]]:
    colours = [str(colour) for colour in rng.choice((CREAM, AMBER, MINT), int(rng.integers(1, 3)), replace=False)]
    taken: list[tuple[float, float, float]] = []
    body = ""
    for _ in range(400):
        x, y, size = rng.uniform(20, 260), rng.uniform(20, 240), rng.uniform(9, 22)
        if all(math.hypot(x - a, y - b) > size + other + 16 for a, b, other in taken):
            taken.append((x, y, size))
            draw = (_star, _leaf, _moth, _moon)[int(rng.integers(4))]
            body += draw(x, y, size, colours[len(taken) % len(colours)])
        if len(taken) >= 14:
            break
    return _file(body), ()


def _name(rng: np.random.Generator) -> tuple[Source, tuple[str, ...]]:
    name, second = (str(word) for word in rng.choice(NAMES, 2, replace=False))
    spec = OutlinedNameSpec(name=name, second=second if rng.random() < 0.5 else "", outlines=(OutlineRing(),))
    return OutlinedNameArt(name=spec), ()


def _picture(rng: np.random.Generator) -> tuple[Source, tuple[str, ...]]:
    word = str(rng.choice(WORDS))
    body = _moth(140, 90, 80, CREAM)
    for x in (92, 188):
        body += f'<circle cx="{x}" cy="{rng.uniform(66, 84):.1f}" r="{rng.uniform(8, 13):.1f}" fill="{AMBER}"/>'
    body += f'<path fill="{CREAM}" fill-rule="evenodd" d="M115 160h50v56h-50z M125 172v34h30v-34z"/>'
    body += f'<path fill="{AMBER}" d="M140 176q11 14 0 26q-11 -12 0 -26"/>'
    for x in (30, 250):
        body += _leaf(x, float(rng.uniform(150, 210)), float(rng.uniform(16, 26)), MINT)
    body += _leaf(float(rng.uniform(20, 60)), 30, 14, MINT)
    return _file(body + _text(word, 140, 262, 28, (AMBER, CREAM)[int(rng.integers(2))], rng)), (word,)


def _file(body: str) -> Source:
    return FileArt(file=ArtworkFile.of("drawn.svg", svg(body, 'viewBox="0 0 280 280"')))


def _text(words: str, x: float, y: float, size: float, colour: str, rng: np.random.Generator) -> str:
    font = str(rng.choice(FONTS))
    return (
        f'<text x="{x}" y="{y}" font-family="{font}" font-weight="700" font-size="{size}" text-anchor="middle" '
        f'fill="{colour}">{words}</text>'
    )


def _star(x: float, y: float, size: float, colour: str) -> str:
    spots = [
        f"{x + reach * math.sin(k * math.pi / 5):.2f},{y - reach * math.cos(k * math.pi / 5):.2f}"
        for k in range(10)
        for reach in ((size, size * 0.45)[k % 2],)
    ]
    return f'<polygon points="{" ".join(spots)}" fill="{colour}"/>'


def _leaf(x: float, y: float, size: float, colour: str) -> str:
    return (
        f'<path d="M{x:.1f} {y - size:.1f}q{size:.1f} {size:.1f} 0 {2 * size:.1f}q{-size:.1f} {-size:.1f} 0 '
        f'{-2 * size:.1f}" fill="{colour}"/>'
    )


def _moon(x: float, y: float, size: float, colour: str) -> str:
    return (
        f'<path d="M{x:.1f} {y - size:.1f}a{size:.1f} {size:.1f} 0 1 0 0.1 {2 * size:.1f}'
        f'a{size * 1.3:.1f} {size * 1.3:.1f} 0 0 1 0 {-2 * size:.1f}z" fill="{colour}"/>'
    )


def _moth(x: float, y: float, size: float, colour: str) -> str:
    wing = f"c{size * 0.9:.1f} {-size * 0.9:.1f} {size * 1.5:.1f} {-size * 0.1:.1f} 0 {size * 0.35:.1f}z"
    other = f"c{-size * 0.9:.1f} {-size * 0.9:.1f} {-size * 1.5:.1f} {-size * 0.1:.1f} 0 {size * 0.35:.1f}z"
    return (
        f'<path fill="{colour}" d="M{x:.1f} {y:.1f}{wing}"/><path fill="{colour}" d="M{x:.1f} {y:.1f}{other}"/>'
        f'<ellipse cx="{x:.1f}" cy="{y + size * 0.2:.1f}" rx="{size * 0.08:.1f}" ry="{size * 0.4:.1f}" '
        f'fill="{colour}"/>'
    )

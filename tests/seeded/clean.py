"""Fifty jobs with nothing wrong: what people make, on many kinds of blank."""

from collections.abc import Iterator
from functools import partial

from tests.seeded.base import BLUE, CREAM, RED, Seed, films, job

STAR = "M50 2L61 24L86 27L68 44L73 64L50 52L27 64L32 44L14 27L39 24Z"
MOON = "M66 4A29 29 0 1 0 66 60A34 34 0 0 1 66 4Z"
LANTERN = "M38 2H62V8H38Z M34 8H66L72 16V52L66 60H34L28 52V16Z M40 18V50H60V18Z"
MOTH = (
    "M48 30C40 8 20 2 8 10C0 16 2 32 14 38C26 43 40 41 48 37Z "
    "M52 30C60 8 80 2 92 10C100 16 98 32 86 38C74 43 60 41 52 37Z"
)
REEDS = "M30 64C30 40 33 20 38 4L43 6C38 24 36 42 36 64Z M52 64C52 44 56 26 64 10L69 13C62 28 58 46 58 64Z"
SHAPES = {"star": STAR, "moon": MOON, "lantern": LANTERN, "moth": MOTH, "reeds": REEDS}
BLANKS = ("tee-adult", "long-sleeve-adult", "tote", "apron", "fitted-tee-adult", "tank-adult")


def _one(shape: str) -> str:
    return f'<path fill="{CREAM}" fill-rule="evenodd" d="{SHAPES[shape]}"/>'


def _two(shape: str) -> str:
    """Return a shape with a line of another colour below it."""
    return f'<g transform="scale(1 0.8)">{_one(shape)}</g><rect x="20" y="56" width="60" height="8" fill="{RED}"/>'


def _stacked(shape: str) -> str:
    """Return a shape on a plate of another colour."""
    on = f'<g transform="translate(10 6.4) scale(0.8)">{_one(shape)}</g>'
    return f'<rect width="100" height="64" rx="6" fill="{BLUE}"/>{on}'


def clean_jobs() -> Iterator[Seed]:
    """Yield jobs of which nothing is to be said but what only a person can say yes to."""
    for blank in BLANKS:
        for shape in SHAPES:
            yield Seed(f"a {shape} on {blank}", partial(job, blank, _one(shape)))
    for blank in BLANKS[:3]:
        for shape in SHAPES:
            yield Seed(f"a {shape} over a line on {blank}", partial(job, blank, _two(shape)))
    for blank in BLANKS[:2]:
        for shape in SHAPES:
            yield Seed(f"a {shape} on a plate on {blank}", partial(job, blank, _stacked(shape), *films(blue="blue")))

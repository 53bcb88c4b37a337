"""Fonts: those that ship with Zinnet, and which of them have a character."""

from functools import cache, lru_cache
from typing import Any

from zinnet.data import path_of, read_toml
from zinnet.errors import ArtworkError
from zinnet.model import Frozen


class FontFamily(Frozen):
    """A font of the catalogue: what it is good for, and a file for each style."""

    name: str
    kind: str
    styles: dict[str, str]
    licence: str


@cache
def fonts() -> dict[str, FontFamily]:
    """Return every font that ships with Zinnet."""
    return {name: FontFamily.model_validate(row) for name, row in read_toml("fonts").items()}


def font_family(name: str) -> FontFamily:
    """Return one font by its id."""
    if name not in fonts():
        raise ArtworkError(f"There is no font “{name}”; known are: {', '.join(fonts())}.")
    return fonts()[name]


@lru_cache(maxsize=32)
def font_face(name: str, style: str | None = None) -> Any:
    """Return a HarfBuzz face; the first style of the font where none is named."""
    import uharfbuzz

    family = font_family(name)
    style = style or next(iter(family.styles))
    if style not in family.styles:
        raise ArtworkError(f"{family.name} has no style “{style}”; it has: {', '.join(family.styles)}.")
    return uharfbuzz.Face(uharfbuzz.Blob.from_file_path(str(path_of("fonts", family.styles[style]))))


@lru_cache(maxsize=32)
def characters_of(name: str, style: str | None = None) -> frozenset[int]:
    """Return the code points that a font has glyphs for."""
    return frozenset(font_face(name, style).unicodes)


def fonts_that_have(text: str) -> tuple[str, ...]:
    """Return the names of the fonts that have every character of a text."""
    wanted = {ord(letter) for letter in text if not letter.isspace()}
    return tuple(family.name for name, family in fonts().items() if wanted <= characters_of(name))

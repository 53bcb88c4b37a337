"""Fonts: those that ship with Zinnet and those installed on the machine, and which of them have a character."""

import os
import re
from collections.abc import Iterator
from functools import cache
from pathlib import Path
from typing import Any

import platformdirs

from zinnet.base.errors import ArtworkError
from zinnet.base.frozen import Frozen
from zinnet.base.stages import stage
from zinnet.data import path_of, read_toml

DEFAULT = "atkinson"
GENERIC = {"sans-serif": "atkinson", "serif": "bitter", "cursive": "dancing-script", "fantasy": "leckerli-one"}
ENDINGS = {".ttf", ".otf"}
MOST_FILES = 3000
MOST_BYTES = 30_000_000


class FontFamily(Frozen):
    """A font: what it is good for, and a file for each style, below ``fonts/`` or with its whole path."""

    name: str
    kind: str
    styles: dict[str, str]
    licence: str


@cache
def fonts() -> dict[str, FontFamily]:
    """Return every font that ships with Zinnet, by its id."""
    return {name: FontFamily.model_validate(row) for name, row in read_toml("fonts").items()}


@cache
def installed_fonts() -> dict[str, FontFamily]:
    """Return the fonts installed on this machine, by ids made of their names; those that ship come first."""
    styles: dict[str, dict[str, str]] = {}
    for path in _font_files():
        named = _names_in(path)
        if named is not None:
            styles.setdefault(named[0], {}).setdefault(named[1], str(path))
    found = {}
    for name in sorted(styles, key=str.casefold):
        slug = re.sub(r"[^a-z0-9]+", "-", name.casefold()).strip("-")
        if slug and slug not in fonts():
            found[slug] = FontFamily(name=name, kind="installed", styles=styles[name], licence="")
    return found


def are_installed_fonts_known() -> bool:
    """Tell whether the installed fonts were looked for already, which takes long where there are many."""
    return installed_fonts.cache_info().currsize > 0


def _font_files() -> Iterator[Path]:
    """Yield the font files of the usual folders (XDG Base Directory specification)."""
    shared = (os.environ.get("XDG_DATA_DIRS") or "/usr/local/share:/usr/share").split(":")
    folders = [
        platformdirs.user_data_path() / "fonts",
        Path.home() / ".fonts",
        *(Path(one) / "fonts" for one in shared),
    ]
    count = 0
    for folder in dict.fromkeys(folders):
        for path in sorted(folder.rglob("*")) if folder.is_dir() else ():
            if path.suffix.lower() in ENDINGS and count < MOST_FILES:
                count += 1
                yield path


def _names_in(path: Path) -> tuple[str, str] | None:
    """Return a font file's family and style, or None where it can't be read as one."""
    from fontTools.ttLib import TTFont

    try:
        if not path.is_file() or path.stat().st_size > MOST_BYTES:
            return None  # a pipe or a device would keep whoever opens it waiting
        with TTFont(path, lazy=True) as font:
            names = font["name"]
            family = names.getDebugName(16) or names.getDebugName(1)
            style = names.getDebugName(17) or names.getDebugName(2) or "Regular"
    except Exception:  # noqa: BLE001 - a damaged font must not keep the others away
        return None
    return (str(family), str(style).casefold()) if family else None


def font_family(name: str) -> FontFamily:
    """Return one font by its id."""
    found = fonts().get(name) or installed_fonts().get(name)
    if found is None:
        raise ArtworkError(f"There is no font “{name}” here; Zinnet brings: {', '.join(fonts())}.")
    return found


def has_font(name: str) -> bool:
    """Tell whether a font is here."""
    return name in fonts() or name in installed_fonts()


def find_font(css_families: str, *, bold: bool, slanted: bool) -> tuple[str, str, bool]:
    """Return (id, style, whether it is the one that was asked for) for a CSS ``font-family`` list."""
    for asked in css_families.split(","):
        name = asked.strip("'\" ").casefold()
        if name in GENERIC:
            return GENERIC[name], _style(font_family(GENERIC[name]), bold, slanted), True
        for known in (fonts(), installed_fonts()) if name else ():
            for font_id, family in known.items():
                if family.name.casefold() == name:
                    return font_id, _style(family, bold, slanted), True
    return DEFAULT, _style(font_family(DEFAULT), bold, slanted), not css_families.strip()


def _style(family: FontFamily, bold: bool, slanted: bool) -> str:
    """Return the style of a font that comes nearest to bold or not, and slanted or not."""

    def strangeness(style: str) -> int:
        is_slanted = "italic" in style or "oblique" in style
        extra = any(word in style for word in ("light", "thin", "black", "condensed", "medium", "extra"))
        return 4 * (("bold" in style) != bold) + 2 * (is_slanted != slanted) + extra

    return min(family.styles, key=strangeness)


@stage(most=1024)
def font_face(name: str, style: str | None = None) -> Any:
    """Return a HarfBuzz face; the first style of the font where none is named."""
    import uharfbuzz

    family = font_family(name)
    style = style or next(iter(family.styles))
    if style not in family.styles:
        raise ArtworkError(f"{family.name} has no style “{style}”; it has: {', '.join(family.styles)}.")
    file = Path(family.styles[style])
    return uharfbuzz.Face(
        uharfbuzz.Blob.from_file_path(str(file if file.is_absolute() else path_of("fonts", str(file))))
    )


@stage(most=1024)
def characters_of(name: str, style: str | None = None) -> frozenset[int]:
    """Return the code points that a font has glyphs for."""
    return frozenset(font_face(name, style).unicodes)


def missing_characters(text: str, name: str, style: str | None = None) -> tuple[str, ...]:
    """Return the characters of a text that a font lacks."""
    known = characters_of(name, style)
    return tuple(sorted({letter for letter in text if ord(letter) not in known and not letter.isspace()}))


def fonts_that_have(text: str) -> tuple[str, ...]:
    """Return the ids of the fonts that have every character of a text: those that ship, then those installed."""
    wanted = {ord(letter) for letter in text if not letter.isspace()}
    known = {**fonts(), **installed_fonts()}
    return tuple(name for name in known if wanted <= characters_of(name))

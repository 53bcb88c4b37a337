"""The words of the interface in the user's language: a catalogue in PO format where there is one, else English."""

import locale
from functools import cache
from pathlib import Path

import platformdirs

from zinnet.base.errors import ZinnetError
from zinnet.base.files import read_file
from zinnet.data import path_of

OWN = "language.po"
"""The user's own catalogue in the configuration folder: it wins over those that ship."""
MOST_BYTES = 20_000_000


def tr(text: str) -> str:
    """Return a text of the interface in the user's language."""
    return catalogue().get(text, text)


@cache
def catalogue() -> dict[str, str]:
    """Return what is said otherwise than in English; a catalogue that can't be read says nothing."""
    path = _file()
    return {} if path is None else read_catalogue(path)


def read_catalogue(path: Path) -> dict[str, str]:
    """Return the translations of a PO file; fuzzy and empty ones are left out, and those that could be markup."""
    import polib

    try:
        entries = polib.pofile(f"{read_file(path, MOST_BYTES).decode()}\n")  # a text of one line is taken for a path
    except (ZinnetError, UnicodeDecodeError, OSError, ValueError):
        return {}
    return {one.msgid: one.msgstr for one in entries.translated_entries() if not _is_markup(one.msgstr)}


def _is_markup(text: str) -> bool:
    return "<" in text or "&lt;" in text


def _file() -> Path | None:
    own = platformdirs.user_config_path("zinnet") / OWN
    if own.exists():
        return own
    code = (locale.getlocale()[0] or "en").partition("_")[0].casefold()
    shipped = path_of("language", f"{code}.po")
    return shipped if code != "en" and shipped.exists() else None

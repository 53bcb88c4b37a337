"""Writes the language file: every text of the interface that can be said in another language, English complete.

Run it as ``python scripts/language.py``; it writes ``src/zinnet/data/language/en.po``, the pattern of all others.
"""

from collections.abc import Iterator
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.extract import extract_from_dir
from babel.messages.pofile import write_po

from zinnet.plan.findings.model import catalogue
from zinnet.ui.page_bar import FIT_PAGES
from zinnet.ui.tags import STATIONS

UI = Path(__file__).parents[1] / "src" / "zinnet" / "ui"
OUT = Path(__file__).parents[1] / "src" / "zinnet" / "data" / "language" / "en.po"
KEYWORDS = {
    "tr": None,
    "_action": (2,),
    "_check": (1, 2),
    "make_button": (1, 2),
    "make_table": (1,),
    "make_combo": (1, 2),
    "add_row": (1,),
    "add_pair": (1,),
    "_combo": (1, 2),
    "__init__": {1: (1,), 2: (2,)},
}


def texts() -> list[str]:
    """Return every text, in order, each once."""
    return sorted(set(_texts()))


def _texts() -> Iterator[str]:
    for _, _, found, _, _ in extract_from_dir(str(UI), keywords=KEYWORDS):
        for text in found if isinstance(found, tuple) else (found,):
            if text:
                yield text
    for _, said, tip in FIT_PAGES:
        yield from (said, tip)
    yield from (name for _, name in STATIONS)
    yield from (kind.title for kind in catalogue().values())


def write(path: Path) -> None:
    """Write the catalogue."""
    found = Catalog(locale="en", project="Zinnet", version="1", copyright_holder="Zinnet", charset="utf-8")
    for text in texts():
        found.add(text, text)
    path.parent.mkdir(parents=True, exist_ok=True)
    with path.open("wb") as file:
        write_po(file, found, omit_header=True, sort_output=True, width=0)


if __name__ == "__main__":
    write(OUT)

"""The user guide, chapter by chapter: shown in the window, and put together as a page of the documentation."""

import sys
from functools import cache
from pathlib import Path

from zinnet.data import read_bytes

PICTURES: dict[str, tuple[str, ...]] = {
    "begin": ("job-card",),
    "measure": ("measure",),
    "artwork": ("artwork",),
    "fit": ("fit",),
    "sizes": ("sizes", "names"),
    "order": ("order",),
    "bench": ("bench",),
    "split": ("split", "weed"),
    "nest": ("nest", "nest-apart"),
    "cut": ("cut", "cut-cutter"),
    "press": ("press", "press-positions", "press-timeline", "press-bench"),
    "log": ("log",),
    "photo": (),
    "demo": (),
    "keys": (),
    "words": (),
}
"""The chapters in their order, each with its pictures."""
PAGES = {"sizes": "sizes", "names": "sizes", "compare": "sizes", "order": "order", "photo": "photo"}
"""The chapter of each page that has not one of its own name."""


@cache
def chapter(name: str) -> str:
    """Return a chapter as Markdown, its title first."""
    return read_bytes("guide", f"{name}.md").decode()


def title_of(name: str) -> str:
    """Return the title of a chapter."""
    return chapter(name).partition("\n")[0].removeprefix("## ")


def chapter_for(station: str, page: str = "") -> str:
    """Return the chapter about a page, else about its station."""
    found = PAGES.get(page, station)
    return found if found in PICTURES else "begin"


def whole_guide() -> str:
    """Return all chapters with their pictures, as one page of Markdown."""
    parts = ["# User guide", "The same chapters are in the program: press `F1`."]
    for name, pictures in PICTURES.items():
        parts.append(chapter(name).strip())
        parts += [f"![{title_of(name)}](screenshots/{picture}.png)" for picture in pictures]
    return "\n\n".join(parts) + "\n"


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(whole_guide(), encoding="utf-8")

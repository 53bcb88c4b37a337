"""The catalogues, fonts and demo files that ship with Zinnet, and how to read them."""

import tomllib
from functools import cache
from importlib.resources import files
from pathlib import Path
from typing import Any


@cache
def read_toml(name: str) -> dict[str, Any]:
    """Return the catalogue ``data/NAME.toml`` as nested dictionaries."""
    return tomllib.loads((files(__name__) / f"{name}.toml").read_text(encoding="utf-8"))


def read_bytes(*path: str) -> bytes:
    """Return a shipped file, named by its path below ``data/``."""
    return files(__name__).joinpath(*path).read_bytes()


def path_of(*path: str) -> Path:
    """Return where a shipped file lies, for those who take only paths."""
    return Path(str(files(__name__))).joinpath(*path)

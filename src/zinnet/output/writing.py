"""Text and JSON into files, whole or not at all."""

import json
from pathlib import Path
from typing import Any

from zinnet.base.errors import CutError
from zinnet.base.files import write_whole


def write_text(path: Path, text: str) -> Path:
    """Write a text file whole or not at all."""
    return write_whole(path, text.encode(), error=CutError)


def write_json(path: Path, data: Any) -> Path:
    """Write JSON, indented."""
    return write_text(path, json.dumps(data, indent=1, ensure_ascii=False) + "\n")

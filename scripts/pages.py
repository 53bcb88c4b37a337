"""Writes what follows from the models, pages and the tee of the welcome: ``python scripts/pages.py``."""

import json
import re
from pathlib import Path

import shapely

from zinnet.blanks.build import build_blank
from zinnet.blanks.model import BlankSpec
from zinnet.data import path_of
from zinnet.job.keys import job_keys
from zinnet.job.model import SCHEMA, Job

TEE = path_of("desktop", "chalk-tee.json")
DOCS = Path(__file__).resolve().parent.parent / "docs"
VERSION = re.compile(r"`schema_version` is \d+")


def pages() -> dict[str, str]:
    """Return each page by its name below ``docs/``."""
    formats = (DOCS / "file-formats.md").read_text(encoding="utf-8")
    return {
        "job.schema.json": json.dumps(Job.model_json_schema(), indent=1, sort_keys=True) + "\n",
        "job-keys.md": keys_page(),
        "file-formats.md": VERSION.sub(f"`schema_version` is {SCHEMA}", formats),
    }


def keys_page() -> str:
    """Return the table of all keys that ``zinnet job set`` knows."""
    rows = [f"| `{key.name}` | {key.type} | {key.range} | {key.meaning} |" for key in job_keys()]
    head = [
        "# The keys of a job",
        "",
        "`zinnet job set JOB KEY=VALUE ...` sets them, all of them or none. `N` counts designs from 1. A key that is",
        "set to nothing goes back to what Zinnet proposes, where it proposes anything. Lengths may be typed as `4mm`,",
        "`1/4 in` or `2cm`.",
        "",
        "| key | what it is | range | meaning |",
        "|---|---|---|---|",
    ]
    return "\n".join([*head, *rows]) + "\n"


def chalk_tee() -> str:
    """Return the outline of a tee, mm, as the welcome draws it before anything that builds blanks is imported."""
    panel = build_blank(BlankSpec()).main
    rings = [
        [[round(x, 2), round(y, 2)] for x, y in ring.coords]
        for part in panel.cloth
        for polygon in shapely.get_parts(part.region)
        for ring in (polygon.exterior, *polygon.interiors)
    ]
    tee = {"bounds_mm": panel.bounds, "collar_mm": panel.references["collar"], "rings_mm": rings}
    return json.dumps(tee) + "\n"


if __name__ == "__main__":
    for name, text in pages().items():
        (DOCS / name).write_text(text, encoding="utf-8")
    TEE.write_text(chalk_tee(), encoding="utf-8")

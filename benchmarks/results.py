"""All that comes of sixteen jobs as JSON, so that two versions of Zinnet can be compared."""

import hashlib
import json
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pypdfium2

from benchmarks.dragging import many_shapes
from zinnet.base.errors import ZinnetError
from zinnet.bench.document import Document
from zinnet.bench.nesting import nest_document
from zinnet.demo import DEMOS, demo_document
from zinnet.job.edits import open_artwork, set_placement
from zinnet.output.cut_files import write_cut_files, write_job_sheet
from zinnet.output.plan_json import plan_json
from zinnet.output.press_json import press_json
from zinnet.plan.model import Plan
from zinnet.plan.proof import prove
from zinnet.workshop.model import standard_workshop

FORMATS = ("svg", "hpgl")
STEPS = 1
NESTED = ("sash", "text", "name")
"""The demos that are nested here, by steps; the nests of most others ship with them."""
WINGS = "wings"


def jobs() -> Iterator[tuple[str, Document]]:
    """Yield the demos' jobs, with the nests that ship with them, and 361 shapes in 10 colours."""
    for name in DEMOS:
        yield name, demo_document(name=name)
    wings = Document(standard_workshop())
    wings.apply(open_artwork("wings.svg", many_shapes()))
    wings.apply(set_placement("x", width_mm=250.0))
    yield WINGS, wings


def results_of(document: Document, *, with_mends: bool, nested: bool) -> dict[str, Any]:
    """Return what comes of a job: plan, findings with their mends, press plan, papers and cut files."""
    if nested:
        nest_document(document, steps=STEPS)
    plan = document.plan
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        papers = _words(write_job_sheet(plan, folder))
        cut = _cut_files(plan, folder)
    with document.stages.in_use():
        return {
            "plan": plan_json(plan),
            "findings": [
                {**finding.to_json(), "mends": _mends(document, finding, with_mends)} for finding in plan.findings
            ],
            "press": press_json(plan),
            "papers": papers,
            "cut": cut,
        }


def _rounded(value: Any) -> Any:
    """Return what JSON holds with numbers to the ninth place after the point."""
    if isinstance(value, dict):
        return {name: _rounded(one) for name, one in value.items()}
    if isinstance(value, list):
        return [_rounded(one) for one in value]
    return round(value, 9) if isinstance(value, float) else value


def _words(path: Path) -> list[str]:
    sheet = pypdfium2.PdfDocument(path)
    return [page.get_textpage().get_text_bounded() for page in sheet]


def _cut_files(plan: Plan, folder: Path) -> dict[str, str]:
    try:
        files = write_cut_files(plan, folder, FORMATS)
    except ZinnetError as error:
        return {"refused": str(error)}
    return {path.name: hashlib.sha256(path.read_bytes()).hexdigest() for path in files}


def _mends(document: Document, finding: Any, with_mends: bool) -> list[Any]:
    mends = finding.mends if with_mends else finding.at_once
    return [[mend.name, prove(document.plan, finding, mend).holds if with_mends else None] for mend in mends]


def run() -> None:
    """What comes of sixteen jobs, written ``--to`` a file and held ``--against`` one of another version."""
    words = dict(zip(sys.argv, sys.argv[1:], strict=False))
    before = json.loads(Path(words["--against"]).read_text()) if "--against" in words else None
    made: dict[str, Any] = {}
    for name, document in jobs():
        found = results_of(document, with_mends=name != WINGS, nested=name in NESTED)
        made[name] = _rounded(json.loads(json.dumps(found)))
        if before is not None:
            differ = [part for part in made[name] if made[name][part] != _rounded(before[name][part])]
            print(f"{name}: {'the same' if not differ else 'other: ' + ', '.join(differ)}", flush=True)
        else:
            print(f"{name}: {len(json.dumps(made[name]))} characters", flush=True)
    if "--to" in words:
        Path(words["--to"]).write_text(json.dumps(made, indent=1))

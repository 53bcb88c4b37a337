"""The demo: a steward's tee of the Wrenfield Lantern Walk. All of it is invented."""

import json

from zinnet.blanks.model import BlankSpec, Measure
from zinnet.data import read_bytes
from zinnet.document import Document
from zinnet.job import ArtworkFile, Design, Job
from zinnet.layers.assign import FilmChoice, LayersSpec
from zinnet.nesting.model import Layout
from zinnet.nesting.run import nest_all
from zinnet.workshop import Workshop, standard_workshop

ARTWORK = "moth-and-lantern.svg"
MEASURED = {"chest": 530.0, "length": 730.0, "neck_width": 180.0, "neck_drop": 100.0, "sleeve": 210.0}


def demo_job() -> Job:
    """Return the job of the demo: three colours on four stewards' tees."""
    return Job(
        title="Stewards' tees, Wrenfield Lantern Walk",
        blank=BlankSpec(
            kind="tee",
            size="adult-m",
            measured=tuple(Measure(name=name, mm=mm) for name, mm in MEASURED.items()),
            colour="#3f5f57",
        ),
        designs=(Design(artwork=ArtworkFile.of(ARTWORK, read_bytes("demo", ARTWORK))),),
        layers=LayersSpec(films=(FilmChoice(colour="#8fd6b4", film="mint"),)),
        copies=4,
    )


def demo_document(workshop: Workshop | None = None) -> Document:
    """Return the demo, opened, with the nests that ship with it."""
    document = Document(workshop or standard_workshop(), demo_job())
    for key, row in json.loads(read_bytes("demo", "layouts.json")).items():
        document.keep_layout(key, Layout.model_validate(row))
    return document


def nest_document(document: Document, seconds: float | None = None) -> None:
    """Nest what is not nested yet; each film gets its seconds."""
    from dataclasses import replace

    waiting = [nest for nest in document.plan.nests if nest.layout is None]
    tasks = [replace(nest.task, seconds=seconds or nest.task.seconds) for nest in waiting]
    for nest, layout in zip(waiting, nest_all(tasks), strict=True):
        document.keep_layout(nest.key, layout)


def main() -> None:
    """Nest the demo anew and write ``data/demo/layouts.json``."""
    from importlib.resources import files
    from pathlib import Path

    document = Document(standard_workshop(), demo_job())
    nest_document(document, seconds=20.0)
    layouts = {nest.key: nest.layout.model_dump() for nest in document.plan.nests if nest.layout}
    path = Path(str(files("zinnet.data"))) / "demo" / "layouts.json"
    path.write_text(json.dumps(layouts, indent=1) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()

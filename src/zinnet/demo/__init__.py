"""The demos: what is made for the Wrenfield Lantern Walk. All of it is invented."""

import json
from collections.abc import Callable

from zinnet.artwork.lettering.outlined_name import OutlinedNameSpec, OutlineRing
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.lettering.word_through import WordThroughSpec
from zinnet.artwork.source import ArtworkFile, OutlinedNameArt, PictureArt, Source, TextArt, WordThroughArt
from zinnet.artwork.tracing.trace import TraceSpec
from zinnet.bench.document import Document
from zinnet.blanks.model import BlankSpec, Measure
from zinnet.data import read_bytes
from zinnet.demo.shelf import badges_job, demo_hem_tests, demo_stock, demo_tests
from zinnet.demo.walk import WALK_JOBS
from zinnet.job.model import Design, FamilyMember, Job
from zinnet.layers.spec import FilmChoice, LayersSpec
from zinnet.nesting.model import Layout, NestSpec
from zinnet.steps.model import Join, Thicken
from zinnet.workshop.model import Workshop, standard_workshop

SHIPPED = ("tees", "shelf", *WALK_JOBS)
"""The demos whose nests ship with Zinnet."""
ARTWORK = "moth-and-lantern.svg"
AMBER = (FilmChoice(colour="#f1c453", film="amber"),)
MEASURED = {"chest": 530.0, "length": 730.0, "neck_width": 180.0, "neck_drop": 100.0, "sleeve": 210.0}


def demo_job() -> Job:
    """Return the job of the demo: three colours on four stewards' tees."""
    return Job(
        title="Stewards' tees, Wrenfield Lantern Walk",
        blank=BlankSpec(
            kind="tee",
            size="adult-m",
            measured=_measured(**MEASURED),
            colour="#3f5f57",
            care_dots=3,
        ),
        designs=(Design.of(ARTWORK, read_bytes("demo", ARTWORK)),),
        layers=LayersSpec(method="lap", films=(FilmChoice(colour="#8fd6b4", film="mint"),)),
        copies=4,
    )


def demo_document(workshop: Workshop | None = None, name: str = "tees") -> Document:
    """Return one of the demos, opened, with the nests that ship with it."""
    workshop = workshop or standard_workshop()
    workshop = workshop.model_copy(
        update={
            "tests": (*demo_tests(workshop), *workshop.tests),
            "hem_tests": (*demo_hem_tests(), *workshop.hem_tests),
        }
    )
    if name in FROM_SHELF:
        workshop = demo_shelf(workshop)
    return Document(workshop, DEMOS[name](), _shipped_nests() if name in SHIPPED else {})


def _shipped_nests() -> dict[str, Layout]:
    """Return the nests that ship with Zinnet, by the keys of their tasks."""
    rows = json.loads(read_bytes("demo", "layouts.json"))
    return {key: Layout.model_validate(row) for key, row in rows.items()}


def sash_job() -> Job:
    """Return the parade marshal's sash: words along the ribbon."""
    job = _one(
        "Parade marshal's sash",
        "marshal-word.svg",
        BlankSpec(kind="sash", size="one", measured=_measured(width=101.6, visible=390.0, around=1760.0)),
        copies=2,
    )
    return job.model_copy(update={"nesting": NestSpec(mat="12x24in")})


def demo_shelf(workshop: Workshop | None = None) -> Workshop:
    """Return a workshop with what lies on the demo's shelf."""
    labelled = tuple(item.model_copy(update={"number": k}) for k, item in enumerate(demo_stock(), start=1))
    return (workshop or standard_workshop()).model_copy(update={"stock": labelled})


def hoodies_job() -> Job:
    """Return the band's hoodies, in six sizes."""
    job = _one(
        "Band hoodies",
        ARTWORK,
        BlankSpec(
            kind="hoodie",
            size="adult-m",
            measured=_measured(chest=571.0, length=702.0, pocket_width=356.0, pocket_height=198.0),
            fabric="cotton",
            care_dots=3,
        ),
        copies=5,
    )
    family = (("toddler", 1), ("youth-m", 3), ("adult-s", 4), ("adult-l", 6), ("adult-2xl", 2))
    members = tuple(FamilyMember(size=size, copies=copies) for size, copies in family)
    return job.model_copy(update={"family": members, "nesting": NestSpec(mat="12x24in")})


def tracing_job() -> Job:
    """Return a child's tee whose lantern is traced from a photo of a painting."""
    name = "lantern-photo.jpg"
    source = PictureArt(file=ArtworkFile.of(name, read_bytes("demo", name)), trace=TraceSpec(colours=4))
    title = "Children's tees, a painted lantern"
    return _made(title, source, "tee", "youth-m", colour="#d8c7a3")


def text_job() -> Job:
    """Return a tote bag with a word in a joined script."""
    text = TextSpec(text="Wrenfield\nLantern Walk", font="dancing-script", colour="#8a2f3c", line_spacing=1.0)
    job = _made("Tote bags", TextArt(text=text), "tote", "one", colour="#e6dcc4")
    (design,) = job.designs
    steps = (Join(), Thicken(least_mm=1.5))
    designs = (design.model_copy(update={"steps": steps}),)
    return job.model_copy(update={"designs": designs, "nesting": NestSpec(mat="12x24in")})


def word_job() -> Job:
    """Return the band's hoodies with a word that crosses the moon; its outline is too dark for them."""
    word = WordThroughSpec(word="LANTERN", shape="disc", rows=3, reach=1.3, cover=0.62)
    title = "Band hoodies, the word and the moon"
    return _made(title, WordThroughArt(word=word), "hoodie", "adult-m", colour="#3b4252", fabric="cotton", films=AMBER)


def name_job() -> Job:
    """Return a drummer's tee with an outlined name."""
    rings = OutlineRing(width_mm=3.5, colour="#23304a"), OutlineRing(width_mm=2.5, colour="#f6f1e7")
    name = OutlinedNameSpec(name="Drummer", outlines=rings, bend_deg=35, second="WRENFIELD")
    title = "Drummers' tees"
    return _made(title, OutlinedNameArt(name=name), "tee", "adult-m", colour="#8a2f3c", films=AMBER)


def _made(
    title: str,
    source: Source,
    kind: str,
    size: str,
    *,
    colour: str,
    fabric: str | None = None,
    films: tuple[FilmChoice, ...] = (),
) -> Job:
    blank = BlankSpec(kind=kind, size=size, colour=colour, fabric=fabric, care_dots=3)
    return Job(title=title, blank=blank, designs=(Design(source=source),), layers=LayersSpec(films=films))


def _measured(**measures: float) -> tuple[Measure, ...]:
    return tuple(Measure(name=name, mm=mm) for name, mm in measures.items())


def _one(title: str, artwork: str, blank: BlankSpec, copies: int = 1) -> Job:
    design = Design.of(artwork, read_bytes("demo", artwork))
    return Job(title=title, blank=blank, designs=(design,), copies=copies)


DEMOS: dict[str, Callable[[], Job]] = {
    **WALK_JOBS,
    "tees": demo_job,
    "hoodies": hoodies_job,
    "sash": sash_job,
    "tracing": tracing_job,
    "text": text_job,
    "word": word_job,
    "name": name_job,
    "shelf": badges_job,
}
"""Every demo, and how its job is made; what they are called stands in ``data/demos.toml``."""
FROM_SHELF = ("shelf", "caps")
"""The demos that are cut from the demo's own shelf."""

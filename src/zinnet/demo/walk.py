"""The Wrenfield Lantern Walk, job by job: all that a small workshop makes for one evening. All of it is invented."""

import datetime

from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.lettering.word_through import WordThroughSpec
from zinnet.artwork.source import TextArt, WordThroughArt
from zinnet.blanks.catalogue import typical_measures
from zinnet.blanks.model import BlankSpec, Measure
from zinnet.data import read_bytes
from zinnet.job.model import Design, FamilyMember, Job
from zinnet.job.names.model import NameList, NameRow
from zinnet.job.order import Order, OrderLine
from zinnet.layers.spec import FilmChoice, LayersSpec
from zinnet.nesting.model import NestSpec
from zinnet.placement.place import PlacementSpec
from zinnet.steps.model import Join, Thicken

WALK = datetime.date(2026, 12, 18)
FOREST, NIGHT = "#3f5f57", "#23304a"
LANTERN_MAKERS = (
    "Alder", "Briony", "Clover", "Dapple", "Elowen", "Fennel", "Gable", "Hazeldine",
    "Ivy", "Juniper", "Kestrel", "Larkin", "Merrow", "Nettle", "Oriel", "Pip",
    "Quill", "Rosalind", "Sorrel", "Thistledown", "Umber", "Vesper", "Willowby", "Yarrow",
)  # fmt: skip
"""Invented names for the demo."""
STEWARDS = (
    ("youth-l", 2), ("adult-s", 3), ("adult-m", 4), ("adult-l", 4), ("adult-xl", 3), ("adult-2xl", 2), ("adult-3xl", 1),
)  # fmt: skip


def stewards_job() -> Job:
    """Return the stewards' tees: three films side by side with a lap, in seven sizes, ordered in two colours.

    The moth's feelers are drawn too fine for their film.
    """
    own = "adult-m"
    forest = tuple(OrderLine(size=size, colour=FOREST, name="forest", count=count) for size, count in STEWARDS)
    night = OrderLine(size="adult-l", colour=NIGHT, name="night", count=2)
    counts = dict(STEWARDS) | {"adult-l": 6}
    return Job(
        title="Stewards' tees, Wrenfield Lantern Walk",
        blank=_blank("tee", own, FOREST, chest=530.0, length=730.0),
        designs=(_file("moth-and-lantern.svg"),),
        layers=LayersSpec(method="lap", films=(FilmChoice(colour="#8fd6b4", film="mint"),)),
        copies=counts[own],
        family=tuple(_member("tee", size, count) for size, count in counts.items() if size != own),
        nesting=NestSpec(mat="12x24in", test_cut=True),
        order=Order(customer="The stewards of the walk", due=WALK, lines=(*forest, night)),
    )


def band_job() -> Job:
    """Return the band's hoodies: a word through the moon on the back, a moth beside the zip.

    Only the chest and the length were measured.
    """
    word = WordThroughSpec(word="LANTERN", shape="disc", rows=2, reach=1.2, cover=0.5, least_mm=2.0)
    return Job(
        title="Band hoodies, word and moon",
        blank=BlankSpec(
            kind="zip-hoodie",
            size="adult-m",
            measured=_measured(chest=575.0, length=705.0),
            colour="#7d8590",
            fabric="cotton",
            care_dots=3,
        ),
        designs=(
            Design(source=WordThroughArt(word=word), placement=PlacementSpec(place="full-back")),
            _file("moth.svg", PlacementSpec(place="left-chest")),
        ),
        layers=LayersSpec(
            films=(FilmChoice(colour="#4f6b35", film="cream"), FilmChoice(colour="#f1c453", film="amber"))
        ),
        copies=5,
        nesting=NestSpec(mat="12x24in", test_cut=True),
        order=Order(customer="The walk's band", due=WALK),
    )


def children_job() -> Job:
    """Return the children's tees: a moth in gold glitter, in three sizes. No test cut of it is known."""
    return Job(
        title="Children's tees in glitter",
        blank=_blank("tee", "youth-m", "#2f4858", fabric="cotton-polyester"),
        designs=(_file("moth.svg"),),
        layers=LayersSpec(films=(FilmChoice(colour="#4f6b35", film="gold-glitter"),)),
        copies=4,
        family=(_member("tee", "toddler", 2), _member("tee", "youth-s", 3)),
        order=Order(customer="The school", due=WALK),
    )


def caps_job() -> Job:
    """Return the lantern bearers' caps: letters along the brim's own curve, from the last of a roll and scraps.

    There is no film for a spare.
    """
    measured = _measured(brim_width=181.0, brim_rise=26.0, height=116.0, brim=68.0)
    return Job(
        title="Lantern bearers' caps",
        blank=BlankSpec(
            kind="cap", size="one", measured=measured, colour="#7a3b2e", fabric="cotton canvas", care_dots=3
        ),
        designs=(_file("lantern-word.svg"),),
        layers=LayersSpec(films=(FilmChoice(colour="#f4ead5", film="lemon"),)),
        nesting=NestSpec(from_shelf=True, test_cut=True),
        copies=6,
        order=Order(customer="The lantern bearers", due=WALK),
    )


def bags_job() -> Job:
    """Return the lantern makers' bags, with 24 names. Only their width was measured."""
    text = TextSpec(text="{name}", font="dancing-script", colour="#8a2f3c")
    return Job(
        title="Lantern makers' bags",
        blank=BlankSpec(kind="tote", size="one", measured=_measured(width=241.3), colour="#e6dcc4"),
        designs=(Design(source=TextArt(text=text), steps=(Join(), Thicken(least_mm=1.2))),),
        names=NameList(columns=("name",), rows=tuple(NameRow(values=(name,)) for name in LANTERN_MAKERS)),
        nesting=NestSpec(mat="12x24in", test_cut=True),
        order=Order(customer="The lantern makers", due=WALK),
    )


def blanket_job() -> Job:
    """Return the drummers' blanket: a flock moth on polyester, whose care label was not read."""
    return Job(
        title="Drummers' blanket",
        blank=BlankSpec(kind="blanket", size="one", measured=_measured(width=1300.0, height=1550.0), colour="#c9bb9a"),
        designs=(_file("moth.svg"),),
        layers=LayersSpec(films=(FilmChoice(colour="#4f6b35", film="moss-flock"),)),
        nesting=NestSpec(test_cut=True),
        order=Order(customer="The drummers", due=WALK),
    )


def jars_job() -> Job:
    """Return the decals of the lantern jars: stuck below the glass, seen through it. No test cut of them is known."""
    return Job(
        title="Lantern jar decals",
        blank=BlankSpec(kind="glass-plate", size="one", measured=_measured(bottom=92.0, rim=104.0), colour="#5b6b66"),
        designs=(_file("moon-and-reeds.svg"),),
        layers=LayersSpec(
            films=(
                FilmChoice(colour="#f2b84b", film="lamplight-adhesive"),
                FilmChoice(colour="#ffffff", film="white-adhesive"),
            )
        ),
        copies=12,
        order=Order(customer="The lantern makers", due=WALK),
    )


def _blank(kind: str, size: str, colour: str, *, fabric: str | None = None, **measures: float) -> BlankSpec:
    """Return a blank whose label was read and that was measured: as is typical of it, but for some."""
    measured = _measured(**(dict(typical_measures(kind, size)) | measures))
    return BlankSpec(kind=kind, size=size, measured=measured, colour=colour, fabric=fabric, care_dots=3)


def _member(kind: str, size: str, copies: int) -> FamilyMember:
    """Return another size, measured."""
    return FamilyMember(size=size, copies=copies, measured=_measured(**typical_measures(kind, size)))


def _file(name: str, placement: PlacementSpec | None = None) -> Design:
    return Design.of(name, read_bytes("demo", name), placement)


def _measured(**measures: float) -> tuple[Measure, ...]:
    return tuple(Measure(name=name, mm=mm) for name, mm in measures.items())


WALK_JOBS = {
    "stewards": stewards_job,
    "band": band_job,
    "children": children_job,
    "caps": caps_job,
    "names": bags_job,
    "blanket": blanket_job,
    "jars": jars_job,
}
"""The jobs of the walk, and how each is made; what they are called stands in ``data/demos.toml``."""

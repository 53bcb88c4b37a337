"""The shelf of the demos, as a small workshop has it after a season, and a job cut from it. All of it is invented."""

from pathlib import Path

import shapely

from zinnet.bench.test_cuts import Trial, advise
from zinnet.blanks.model import BlankSpec
from zinnet.cutting.settings import CutTest
from zinnet.data import read_bytes
from zinnet.demo.log import demo_history
from zinnet.geometry.region import Region, as_region
from zinnet.job.model import Design, Job
from zinnet.layers.spec import FilmChoice, LayersSpec
from zinnet.nesting.model import NestSpec
from zinnet.placement.place import PlacementSpec
from zinnet.pressing.hem_test import HemBar, HemTest
from zinnet.workshop.blank_stock import BlankItem, BlankStock
from zinnet.workshop.cutbook import CutBook
from zinnet.workshop.madebook import MadeBook
from zinnet.workshop.model import Workshop, standard_workshop
from zinnet.workshop.pressbook import PressBook
from zinnet.workshop.stock import Stock, StockItem
from zinnet.workshop.store import WorkshopStore

MOTH = "moth.svg"


def badges_job() -> Job:
    """Return the children's badges: small moths, cut from what is left of other jobs."""
    return Job(
        title="Children's moth badges, from scraps",
        blank=BlankSpec(kind="tee", size="youth-m", colour="#2f4858", care_dots=3),
        designs=(Design.of(MOTH, read_bytes("demo", MOTH), PlacementSpec(place="left-chest", width_mm=62.0)),),
        layers=LayersSpec(films=(FilmChoice(colour="#4f6b35", film="cream"),)),
        nesting=NestSpec(from_shelf=True, test_cut=True),
        copies=16,
    )


def demo_stock() -> tuple[StockItem, ...]:
    """Return what lies on the demo's shelf, not labelled yet."""
    return (
        StockItem(
            film="cream",
            kind="scrap",
            width_mm=200,
            length_mm=290,
            outline=_scrap(290, 200, [(70, 62, 46), (196, 122, 58)]),
            price_m2=24.5,
            place="folder 1",
            note="left of the stewards' tees",
        ),
        StockItem(
            film="cream",
            kind="scrap",
            width_mm=150,
            length_mm=240,
            outline=_scrap(240, 150, [(150, 70, 44)]),
            spoiled=as_region(shapely.box(8, 100, 52, 140)),
            price_m2=24.5,
            place="folder 1",
            note="crease at one corner",
        ),
        StockItem(film="cream", kind="roll", width_mm=305, length_mm=1840, price_m2=24.5, place="tube A"),
        StockItem(film="amber", kind="roll", width_mm=305, length_mm=3200, price_m2=24.5, place="tube A"),
        StockItem(
            film="amber",
            kind="scrap",
            width_mm=160,
            length_mm=180,
            outline=_scrap(180, 160, [(90, 80, 52)]),
            price_m2=24.5,
            place="folder 1",
        ),
        StockItem(film="mint", kind="sheet", width_mm=305, length_mm=305, count=3, price_m2=27.0, place="folder 2"),
        StockItem(
            film="lemon", kind="roll", width_mm=305, length_mm=52, price_m2=24.5, place="tube A", note="the last of it"
        ),
        StockItem(
            film="lemon",
            kind="scrap",
            width_mm=140,
            length_mm=210,
            outline=_scrap(210, 140, [(168, 54, 34)]),
            price_m2=24.5,
            place="folder 1",
            note="left of the summer walk",
        ),
        StockItem(film="moonlight", kind="roll", width_mm=500, length_mm=940, price_m2=38.0, place="tube B"),
        StockItem(film="moss-flock", kind="roll", width_mm=500, length_mm=1500, price_m2=46.0, place="tube B"),
        StockItem(film="reed-pattern", kind="sheet", width_mm=305, length_mm=480, price_m2=52.0, place="folder 3"),
    )


MACHINE = "table"
TRIED = ("cream", "amber", "mint", "lemon", "brick", "navy", "moss-flock", "white", "scarlet")
"""The films that the demo's workshop has made a good test cut of; glitter and adhesive films it has not."""


def demo_tests(workshop: Workshop | None = None) -> tuple[CutTest, ...]:
    """Return the good test cuts of the demo's workshop, with what is usual for each film on its machine."""
    made, machine = workshop or standard_workshop(), MACHINE
    return tuple(
        CutTest(machine=machine, film=film, settings=advise(made, Trial(film, machine)).shown, outcome="clean")
        for film in TRIED
    )


def demo_hem_tests() -> tuple[HemTest, ...]:
    """Return the hem tests of the demo's workshop: smooth film on satin, gentle enough, under a press."""
    held = ((138.0, 5.0, False), (141.0, 9.0, True), (150.0, 9.0, True))
    bars = tuple(HemBar(heat_c=heat, seconds=seconds, held=good, washed=good or None) for heat, seconds, good in held)
    satin = HemTest(fabric="polyester satin", kind="smooth", heat_source="press", bars=bars, peel="warm")
    return (satin.model_copy(update={"at": "2026-09-12T18:00:00+00:00"}),)


def demo_garments() -> tuple[BlankItem, ...]:
    """Return the garments on the demo's shelf: some of the sizes are there, others have to be bought."""
    forest = {"adult-s": 3, "adult-m": 4, "adult-l": 2, "adult-xl": 1}
    tees = [
        BlankItem(kind="tee", size=size, colour="#3f5f57", name="forest", count=count, place="box 2")
        for size, count in forest.items()
    ]
    bags = BlankItem(kind="tote", size="one", colour="#e6dcc4", name="natural", count=20, place="box 4")
    caps = BlankItem(kind="cap", size="one", colour="#7a3b2e", name="rust", count=6, place="box 4")
    return (*tees, bags, caps)


def demo_store(folder: Path) -> WorkshopStore:
    """Return a workshop file of its own with the demo's shelf and log in it."""
    store = WorkshopStore(folder / "workshop.sqlite")
    if not store.path.exists():
        with store.change():
            Stock(store).add(demo_stock(), said="for the demo")
            for made in demo_history():
                MadeBook(store).record(made)
            for test in demo_tests():
                CutBook(store).record(test)
            for hem in demo_hem_tests():
                PressBook(store).keep_test(hem)
            for item in demo_garments():
                BlankStock(store).put(item)
    return store


def _scrap(length: float, width: float, holes: list[tuple[float, float, float]]) -> Region:
    """Return a scrap with a corner torn off and round holes (x, y, radius) where pieces were cut."""
    whole = shapely.Polygon([(0, 0), (length, 0), (length, width * 0.82), (length - 26, width), (0, width)])
    return as_region(whole.difference(shapely.union_all([shapely.Point(x, y).buffer(r) for x, y, r in holes])))

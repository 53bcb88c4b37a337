"""Whether work is lost: programs killed at any moment, and several of them at one workshop and one job."""

import contextlib
import os
import random
import signal
import sqlite3
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Callable
from multiprocessing import get_context
from pathlib import Path

import alembic.command
import alembic.config
import sqlalchemy

from tests.helpers import LANTERN, document_of, nested
from zinnet.base.errors import ZinnetError
from zinnet.bench.automatic_copy import AutomaticCopy
from zinnet.bench.document import Document
from zinnet.bench.on_disk import ChangedElsewhereError
from zinnet.job.edits import set_title
from zinnet.job.file import load_job
from zinnet.output.cut_files import write_cut_files, write_job_sheet
from zinnet.workshop.cutbook import CutBook
from zinnet.workshop.migrations import FOLDER, HEAD
from zinnet.workshop.model import standard_workshop
from zinnet.workshop.stock import Change, Stock, StockItem
from zinnet.workshop.store import WorkshopStore

ROLL = StockItem(film="white", kind="roll", width_mm=305, length_mm=5000)
PIECE_MM = 0.25
REVISIONS = ("0001", "0002", "0003", "0004", "0005")
WAYS = (
    "first_workshop",
    *(f"upgrade {revision}" for revision in REVISIONS),
    *("save", "automatic_copy", "export", "pdf", "shelf"),
)


def _argument(name: str, usual: int) -> int:
    words = dict(zip(sys.argv, sys.argv[1:], strict=False))
    return int(words.get(name, usual))


def _killed(work: Callable[[Callable[[], None]], None], after_s: float) -> bool:
    """Do some work in a process that is killed a while after it has told that it began; tell whether it told."""
    ready, told = os.pipe()
    child = os.fork()
    if child == 0:
        os.close(ready)
        with contextlib.suppress(BaseException):
            work(lambda: os.write(told, b"x") and None)
        os._exit(0)
    os.close(told)
    began = os.read(ready, 1) == b"x"
    time.sleep(after_s)
    with contextlib.suppress(ProcessLookupError):
        os.kill(child, signal.SIGKILL)
    os.waitpid(child, 0)
    os.close(ready)
    return began


class Kills:
    """Each way of writing, killed over and over; what is there afterwards is looked at."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.chance = random.Random(7)
        self.document = nested(document_of(LANTERN))
        self.plan = self.document.plan
        self.offered = 0

    def save(self) -> None:
        """The job on its place is one of those that were saved, whole."""
        path = self.folder / "walk.zinnet"
        self.document.save(path, over=True)

        def work(tell: Callable[[], None]) -> None:
            tell()
            for turn in range(1000):
                self.document.apply(set_title(f"evening {turn}"))
                self.document.save(path)

        _killed(work, self.chance.uniform(0, 0.03))
        assert load_job(path)[0].title.startswith(("evening", "test"))

    def automatic_copy(self) -> None:
        """Every copy that was kept is offered, and can be opened."""
        folder = self.folder / "copies"

        def work(tell: Callable[[], None]) -> None:
            copy = AutomaticCopy(folder)
            copy.path = folder / f"{os.getpid()}-{time.time_ns()}.zinnet"
            copy.keep(self.document.job)
            tell()
            for turn in range(1000):
                copy.keep(self.document.job.model_copy(update={"title": f"evening {turn}"}))

        self.offered += _killed(work, self.chance.uniform(0, 0.02))
        left = AutomaticCopy(folder).left_behind()
        assert len(left) == self.offered, (len(left), self.offered)
        load_job(left[0].path)

    def export(self) -> None:
        """Every cut file that is there is whole."""
        out = self.folder / "cut"

        def work(tell: Callable[[], None]) -> None:
            tell()
            while True:
                write_cut_files(self.plan, out, ("svg", "dxf", "hpgl"))

        _killed(work, self.chance.uniform(0, 0.1))
        for path in out.glob("*.svg") if out.exists() else ():
            assert path.read_text().rstrip().endswith("</svg>"), path
        for path in out.glob("*.dxf") if out.exists() else ():
            assert path.read_text().rstrip().endswith("EOF"), path

    def pdf(self) -> None:
        """The job sheet that is there is whole."""
        out = self.folder / "sheet"

        def work(tell: Callable[[], None]) -> None:
            tell()
            while True:
                write_job_sheet(self.plan, out)

        _killed(work, self.chance.uniform(0, 0.15))
        for path in out.glob("*.pdf") if out.exists() else ():
            assert path.read_bytes().rstrip().endswith(b"%%EOF"), path

    def shelf(self) -> None:
        """The roll is as the last line of its history says; nothing is half written."""
        store = WorkshopStore(self.folder / "workshop.sqlite")
        stock = Stock(store)
        if not stock.items():
            stock.add([ROLL])

        def work(tell: Callable[[], None]) -> None:
            own = Stock(WorkshopStore(store.path))
            tell()
            while True:
                seen = own.item(1)
                rest = seen.model_copy(update={"length_mm": max(100.0, seen.length_mm - PIECE_MM)})
                own.cut("walk", [Change(number=1, before=seen, after=rest)])

        _killed(work, self.chance.uniform(0, 0.05))
        assert stock.history(1)[-1].after == stock.item(1)
        with contextlib.closing(sqlite3.connect(store.path)) as connection:
            assert connection.execute("PRAGMA quick_check").fetchone()[0] == "ok"

    def first_workshop(self) -> None:
        """A workshop whose making was broken off is made by the next program."""
        self._opened(None)

    def upgrade(self, revision: str) -> None:
        """A workshop whose upgrade was broken off is brought up to date by the next program, with all in it."""
        self._opened(revision)

    def _opened(self, revision: str | None) -> None:
        path = self.folder / "first" / f"{self.chance.random()}.sqlite"
        path.parent.mkdir(exist_ok=True)
        if revision is not None:
            _workshop_of(path, revision)

        def work(tell: Callable[[], None]) -> None:
            tell()
            WorkshopStore(path).blanks()

        _killed(work, self.chance.uniform(0, 0.4))
        store = WorkshopStore(path)
        assert store.blanks() == []
        with contextlib.closing(sqlite3.connect(path)) as connection:
            assert connection.execute("SELECT version_num FROM alembic_version").fetchone()[0] == HEAD
            kept = connection.execute("SELECT name FROM blanks").fetchall()
        assert kept == ([] if revision is None else [("kept",)])
        for one in path.parent.glob(f"{path.name}*"):
            one.unlink()


def _workshop_of(path: Path, revision: str) -> None:
    """Make a workshop as an older Zinnet left it, with a row in it that can't be read any more but must be kept."""
    engine = sqlalchemy.create_engine(f"sqlite:///{path}")
    config = alembic.config.Config()
    config.set_main_option("script_location", str(FOLDER))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        alembic.command.upgrade(config, revision)
        connection.exec_driver_sql("INSERT INTO blanks (name, spec, kept_at) VALUES ('kept', '{\"kind\": 5}', '')")
    engine.dispose()


def kills() -> None:
    """Kills (``--kills N`` each) while saving, copying, exporting, shelving, making and upgrading (``--only WAY``)."""
    count = _argument("--kills", 100)
    only = dict(zip(sys.argv, sys.argv[1:], strict=False)).get("--only", "")
    with get_context("spawn").Pool(_argument("--workers", 2), maxtasksperchild=1) as pool:
        for said in pool.imap(_tried, [(way, count) for way in WAYS if way.startswith(only)], chunksize=1):
            print(said, flush=True)


def _tried(asked: tuple[str, int]) -> str:
    """Kill a way of writing so many times; return how often something was lost, and what."""
    way, count = asked
    name, *words = way.split()
    lost, begun = [], time.perf_counter()
    with tempfile.TemporaryDirectory() as folder:
        os.environ.update(dict.fromkeys(("XDG_STATE_HOME", "XDG_DATA_HOME", "XDG_CONFIG_HOME"), folder))
        tried = Kills(Path(folder))
        for number in range(count):
            try:
                getattr(tried, name)(*words)
            except (AssertionError, ZinnetError, sqlite3.Error, OSError) as error:
                lost.append(f"  {number}: {error!r}"[:200])
    return "\n".join([f"{way:15} {count} kills, {len(lost)} lost, {time.perf_counter() - begun:.0f} s", *lost[:5]])


def _first(path: str) -> str:
    try:
        WorkshopStore(Path(path)).blanks()
    except ZinnetError as error:
        return str(error)
    return ""


def _actor(folder: str, seed: int, actions: int) -> Counter[str]:
    """Do things at one workshop and one job; return how often each was done, and how often it was said why not."""
    chance, done = random.Random(seed), Counter[str]()
    os.environ.update(dict.fromkeys(("XDG_STATE_HOME", "XDG_DATA_HOME", "XDG_CONFIG_HOME"), folder))
    store, workshop = WorkshopStore(Path(folder) / "workshop.sqlite"), standard_workshop()
    stock, book, path = Stock(store), CutBook(store), Path(folder) / "walk.zinnet"
    for _ in range(actions):
        what = chance.choice(("cut", "cut", "correct", "add", "log", "metres", "save", "save"))
        try:
            match what:
                case "cut":
                    seen = stock.item(1)
                    rest = seen.model_copy(update={"length_mm": seen.length_mm - PIECE_MM})
                    stock.cut("walk", [Change(number=1, before=seen, after=rest)])
                case "correct":
                    seen = stock.item(2)
                    stock.correct(2, "counted", seen=seen, count=seen.count + 1)
                case "add":
                    stock.add([ROLL.model_copy(update={"kind": "sheet", "length_mm": 305})])
                case "log":
                    book.log("walk", "test", "a line")
                case "metres":
                    book.add_metres("m", 1.0)
                case "save":
                    document = Document.open(path, workshop)
                    document.apply(set_title(str(int(document.job.title) + 1)))
                    document.save(path)
        except ChangedElsewhereError:
            done[f"{what} said"] += 1
        except ZinnetError as error:
            done[f"{what} said" if "changed meanwhile" in str(error) else f"{what}: {error}"[:120]] += 1
        else:
            done[what] += 1
    return done


def together() -> None:
    """Two programs open a workshop first (``--first N`` times); three work at one and at one job (``--actions N``)."""
    rounds, actions = _argument("--first", 50), _argument("--actions", 600)
    spawn = get_context("spawn")
    with tempfile.TemporaryDirectory() as folder, spawn.Pool(2) as pool:
        broken = Counter[str]()
        for number in range(rounds):
            path = str(Path(folder) / f"{number}.sqlite")
            broken.update(filter(None, pool.map(_first, [path, path], chunksize=1)))
        print(f"first opening by two: {rounds} times, {sum(broken.values())} refused {dict(broken)}", flush=True)
    with tempfile.TemporaryDirectory() as folder, spawn.Pool(3) as pool:
        stock = Stock(WorkshopStore(Path(folder) / "workshop.sqlite"))
        stock.add([ROLL, ROLL.model_copy(update={"kind": "sheet", "length_mm": 305})])
        document = document_of(LANTERN, set_title("0"))
        document.save(Path(folder) / "walk.zinnet")
        total = sum(pool.starmap(_actor, [(folder, seed, actions // 3) for seed in range(3)]), Counter[str]())
        store = WorkshopStore(Path(folder) / "workshop.sqlite")
        stock = Stock(store)
        found = {
            "cut": (5000 - stock.item(1).length_mm) / PIECE_MM,
            "correct": stock.item(2).count - 1,
            "add": len(stock.items()) - 2,
            "log": len(CutBook(store).entries()),
            "metres": sum(blade.metres for blade in CutBook(store).blades()),
            "save": int(load_job(Path(folder) / "walk.zinnet")[0].title),
        }
    for name, count in found.items():
        lost = total[name] - count
        print(f"{name:8} {total[name]:5} done, {total[f'{name} said']:5} refused with a word, {lost:.0f} lost")
    others = {name: count for name, count in total.items() if name.split(" said")[0] not in found}
    print(f"{sum(total.values())} actions; other answers: {others or 'none'}", flush=True)

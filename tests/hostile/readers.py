"""Every reader of files with the damaged files that it is tried with: each gives what it reads, or one sentence."""

import contextlib
import functools
import io
import json
import random
import shutil
import sqlite3
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import NamedTuple
from unittest import mock

from PIL import Image

from tests.helpers import LANTERN, RED_AND_BLUE, document_of, nested
from tests.hostile.artwork_files import damaged, seeds
from tests.hostile.mutators import by_bytes, table, zip_changed
from tests.hostile.svg_grammar import grown
from tests.photo.drawn import photo
from zinnet.artwork.source import artwork_of, source_of
from zinnet.base.errors import ZinnetError
from zinnet.base.stages import StageCache
from zinnet.bench.document import Document
from zinnet.bench.recent import recent_jobs
from zinnet.bench.timers import Timers
from zinnet.blanks.catalogue import read_blank_kinds
from zinnet.blanks.own import read_outline
from zinnet.camera.measure import photo_of
from zinnet.data import path_of, read_bytes
from zinnet.demo.shelf import demo_store
from zinnet.films.own import read_films
from zinnet.job.edits import add_source, open_artwork
from zinnet.job.file import packed_job, unpacked_job
from zinnet.job.model import Job
from zinnet.job.names.reading import read_names_for
from zinnet.job.order_csv import read_order_csv
from zinnet.layers.split import split_artwork
from zinnet.machines.cutters import read_machines
from zinnet.nesting.from_svg import region_of_svg
from zinnet.plan.derive import derive
from zinnet.ui.language import read_catalogue
from zinnet.workshop.habits import read_habits
from zinnet.workshop.model import standard_workshop
from zinnet.workshop.opening import books_of
from zinnet.workshop.prices import read_prices
from zinnet.workshop.stock_csv import read_stock_csv
from zinnet.workshop.store import WorkshopStore
from zinnet.workshop.transfer import exported_workshop, import_workshop

FOLDERS = ("user_config_path", "user_state_path", "user_data_path")


class Kind(NamedTuple):
    """One kind of files: how one is made by chance, how it is read, and how large its share of all cases is."""

    make: Callable[[random.Random], bytes]
    read: Callable[[bytes, Path], object]
    share: int


def attempt(kind: Kind, data: bytes, folder: Path) -> str:
    """Return how a file fares: ``read``, ``refused``, or the error that nobody expected."""
    try:
        with _folders(folder), StageCache(budget=1 << 40).in_use():
            kind.read(data, folder)
    except ZinnetError as error:
        said = str(error)
        return "refused" if 15 <= len(said) <= 2000 else f"no sentence: {said[:80]!r}"
    except Exception as error:  # noqa: BLE001 - that is what is looked for
        trace = error.__traceback__
        while trace is not None and trace.tb_next is not None:
            trace = trace.tb_next
        where = "" if trace is None else f" at {Path(trace.tb_frame.f_code.co_filename).name}:{trace.tb_lineno}"
        return f"{type(error).__name__}{where}: {error}"[:240]
    return "read"


@contextlib.contextmanager
def _folders(folder: Path) -> Iterator[None]:
    """Let the user's folders be this one."""
    with contextlib.ExitStack() as stack:
        for name in FOLDERS:
            stack.enter_context(mock.patch(f"platformdirs.{name}", lambda app, folder=folder: folder))
        yield


# artwork


def _damaged_artwork(chance: random.Random) -> bytes:
    _, data = chance.choice(seeds())
    return damaged(data, chance)


def _drawn(data: bytes, folder: Path) -> object:
    artwork = artwork_of(source_of("stranger.svg", data))
    return split_artwork(artwork, width_mm=200) if artwork.shapes else artwork


def _derived(data: bytes, folder: Path) -> object:
    workshop = standard_workshop()
    with workshop.blanks.in_use():
        return derive(open_artwork("stranger.svg", data).change(Job()), workshop)


def _outlined(data: bytes, folder: Path) -> object:
    with contextlib.suppress(ZinnetError):
        region_of_svg(data, "scrap.svg")
    return read_outline("outline.svg", data)


# pictures


@functools.cache
def _pictures() -> list[bytes]:
    found = []
    small = Image.fromarray(photo(3, most_tilt=25).picture)
    for form in ("JPEG", "PNG", "WEBP"):
        buffer = io.BytesIO()
        small.save(buffer, form)
        found.append(buffer.getvalue())
    return [*found, b"%!PS-Adobe-3.0 EPSF-3.0\n%%BoundingBox: 0 0 9 9\n(%pipe%touch x) (w) file\n", b"GIF89a\x01\x00"]


def _damaged_picture(chance: random.Random) -> bytes:
    data = chance.choice(_pictures())
    head = by_bytes(data[:200], chance) + data[200:] if chance.random() < 0.5 else data
    return by_bytes(head, chance) if chance.random() < 0.7 else head


def _photographed(data: bytes, folder: Path) -> object:
    path = folder / "photo.jpg"
    path.write_bytes(data)
    return photo_of(path, "a4")


# jobs and workshops


@functools.cache
def _jobs() -> list[bytes]:
    lantern = nested(document_of(LANTERN))
    two = document_of(RED_AND_BLUE, add_source("moth", source_of("moth.svg", read_bytes("demo", "moth.svg"))))
    return [packed_job(one.job, one.plan.layouts) for one in (lantern, two)]


def _opened(data: bytes, folder: Path) -> object:
    job, layouts = unpacked_job(data, "walk.zinnet")
    return Document(standard_workshop(), job, layouts).plan.findings


@functools.cache
def _workshop() -> tuple[bytes, bytes]:
    """Return the demo's workshop as an export, and as its file."""
    with tempfile.TemporaryDirectory() as folder:
        store = demo_store(Path(folder))
        exported = exported_workshop(store)
        with contextlib.closing(sqlite3.connect(store.path)) as connection:
            connection.execute("PRAGMA journal_mode=DELETE")
        return exported, store.path.read_bytes()


def _imported(data: bytes, folder: Path) -> object:
    store = WorkshopStore(folder / "workshop.sqlite")
    import_workshop(store, data, "walk.zip", replace=True)
    return books_of(store)


def _damaged_database(chance: random.Random) -> bytes:
    return by_bytes(_workshop()[1], chance)


def _kept(data: bytes, folder: Path) -> object:
    path = folder / "workshop.sqlite"
    for old in folder.glob("workshop.sqlite*"):
        old.unlink()
    path.write_bytes(data)
    store = WorkshopStore(path)
    return books_of(store), store.blanks()


# settings, tables, state

TOML = (
    b"[films.my-white]\nname = 'My white'\nkind = 'smooth'\ncolour = '#ffffff'\nwidth_mm = 305\n",
    b"[mats.mine]\nname = 'Mine'\nwidth_mm = 305\nheight_mm = 305\nmargin_mm = 6\n"
    b"[machines.mine]\nname = 'M'\nmats = ['mine']\n",
    b"finger_mm = 18\n[schools]\ntee = 'fingers'\n",
    b"hour = '24.00'\ncurrency = 'EUR'\n[time]\nweed_s = 3\n[blanks]\ntee = '4.10'\n",
    b"[sash]\nlike = 'tee'\nname = 'Sash'\n[sash.measures]\nchest = 500\n",
)


def _damaged_toml(chance: random.Random) -> bytes:
    parts = [
        chance.choice((*TOML, path_of("blanks.toml").read_bytes()[:3000], path_of("films.toml").read_bytes()[:3000]))
    ]
    if chance.random() < 0.1:
        parts.append(b"x = " + b"[" * chance.choice((3, 5000)) + b"\n")
    return by_bytes(b"".join(parts), chance)


def _settings(data: bytes, folder: Path) -> object:
    refused = []
    for name, read in (
        ("films.toml", lambda path: read_films(path)),
        ("machines.toml", read_machines),
        ("settings.toml", read_habits),
        ("prices.toml", read_prices),
        ("blanks.toml", lambda path: read_blank_kinds()),
    ):
        path = folder / name
        path.write_bytes(data)
        try:
            read(path)
        except ZinnetError as error:
            refused.append(str(error))
        finally:
            path.unlink()
    if len(refused) == 5:
        raise ZinnetError(refused[0])
    return refused


def _tables(data: bytes, folder: Path) -> object:
    refused: list[ZinnetError] = []
    job, workshop = Job(), standard_workshop()
    for read in (
        lambda: read_names_for(job, workshop, data),
        lambda: read_order_csv(data, "order.csv"),
        lambda: read_stock_csv(data, "shelf.csv"),
    ):
        try:
            read()
        except ZinnetError as error:
            refused.append(error)
    if len(refused) == 3:
        raise refused[0]
    return refused


def _damaged_table(chance: random.Random) -> bytes:
    return table(
        chance,
        ("name", "size", "colour", "count", "film", "kind", "width_mm", "length_mm", "outline", "note", "turned"),
        (
            "Moth",
            "M",
            "adult-l",
            "3",
            "#d62828",
            "white",
            "roll",
            "305",
            "5000",
            "POLYGON ((0 0, 9 0, 9 9, 0 0))",
            "yes",
        ),
    )


def _damaged_state(chance: random.Random) -> bytes:
    now = {"wall": 1.0, "boot": "b", "since_boot": 1.0}
    rows = [{"id": "a/1.1", "name": "tee", "seconds": 12.0, "over_s": 0.0, "since": now}]
    kept = chance.choice((rows, ["walk.zinnet"], {"key": {"at": 1, "order": ["1.1"], "done": [["1.1", 3.0, 0]]}}))
    return by_bytes(json.dumps(kept).encode(), chance)


def _state(data: bytes, folder: Path) -> object:
    for name in ("recent.json", "timers.json", "pressing.json"):
        (folder / name).write_bytes(data)
    timers = Timers(folder / "timers.json")
    return recent_jobs(), timers.all


PO = (
    b'msgid ""\nmsgstr "Content-Type: text/plain; charset=UTF-8\\n"\n\nmsgid "Width"\nmsgstr "Breite"\n\n'
    b'#, fuzzy\nmsgctxt "x"\nmsgid "Height"\nmsgid_plural "Heights"\nmsgstr[0] "a"\nmsgstr[1] "b"\n'
)


def _worded(data: bytes, folder: Path) -> object:
    (folder / "language.po").write_bytes(data)
    found = read_catalogue(folder / "language.po")
    assert all(isinstance(text, str) for pair in found.items() for text in pair)
    return found


KINDS: dict[str, Kind] = {
    "svg by grammar": Kind(grown, _drawn, 20),
    "svg derived": Kind(grown, _derived, 20),
    "artwork by bytes": Kind(_damaged_artwork, _drawn, 12),
    "outlines": Kind(grown, _outlined, 5),
    "photos": Kind(_damaged_picture, _photographed, 3),
    "jobs": Kind(lambda chance: zip_changed(chance.choice(_jobs()), "job.json", chance), _opened, 8),
    "nests in jobs": Kind(lambda chance: zip_changed(_jobs()[0], "layouts.json", chance), _opened, 3),
    "workshops": Kind(lambda chance: zip_changed(_workshop()[0], "workshop.json", chance), _imported, 4),
    "databases": Kind(_damaged_database, _kept, 3),
    "settings": Kind(_damaged_toml, _settings, 8),
    "tables": Kind(_damaged_table, _tables, 9),
    "state": Kind(_damaged_state, _state, 3),
    "languages": Kind(lambda chance: by_bytes(PO, chance), _worded, 2),
}


def fare(name: str, seed: int, folder: Path) -> tuple[str, bytes]:
    """Return how one case fares, and its file; the same seed makes the same file."""
    kind = KINDS[name]
    data = kind.make(random.Random(f"{name} {seed}"))
    try:
        return attempt(kind, data, folder), data
    finally:
        for one in folder.iterdir():
            shutil.rmtree(one) if one.is_dir() else one.unlink()

"""The workshop goes out into open files and comes back as it was; what is damaged or hostile changes nothing."""

import csv
import io
import json
import zipfile

import pytest

from tests.helpers import run_command
from zinnet.base.errors import WorkshopError
from zinnet.blanks.model import BlankSpec
from zinnet.demo.shelf import demo_store
from zinnet.workshop.madebook import MadeBook
from zinnet.workshop.model import standard_workshop
from zinnet.workshop.opening import with_books
from zinnet.workshop.stock import Stock
from zinnet.workshop.store import WorkshopStore
from zinnet.workshop.transfer import exported_workshop, import_workshop


@pytest.fixture
def full(tmp_path):
    """Return a workshop with something in every book that the demo fills, a kept blank and a photo."""
    store = demo_store(tmp_path / "full")
    store.keep_blank("my tee", BlankSpec(kind="tee", size="adult-m"))
    made = MadeBook(store).entries()[0]
    MadeBook(store).change(made.number, photo=b"\x89PNG\x00\xff photo")
    return store


def books_of(store):
    return with_books(standard_workshop(), store)


def changed(data, change):
    """Return an export whose tables were changed."""
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        read = json.loads(archive.read("workshop.json"))
    change(read)
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as archive:
        archive.writestr("workshop.json", json.dumps(read))
    return buffer.getvalue()


def test_all_comes_back_as_it_was(full, tmp_path):
    other = WorkshopStore(tmp_path / "other.sqlite")
    count = import_workshop(other, exported_workshop(full), "walk.zip")
    assert count > 20
    assert books_of(other) == books_of(full)
    assert other.blanks() == full.blanks()
    number = Stock(full).items()[0].number
    assert Stock(other).history(number) == Stock(full).history(number)
    photographed = next(one for one in MadeBook(full).entries() if one.has_photo)
    assert MadeBook(other).photo(photographed.number) == b"\x89PNG\x00\xff photo"


def test_numbers_go_on_where_they_were(full, tmp_path):
    other = WorkshopStore(tmp_path / "other.sqlite")
    import_workshop(other, exported_workshop(full), "walk.zip")
    last = max(item.number for item in Stock(full).items())
    assert Stock(other).add([Stock(full).items()[0]])[0].number == last + 1


def test_its_files_are_read_by_anything(full):
    with zipfile.ZipFile(io.BytesIO(exported_workshop(full))) as archive:
        rows = list(csv.DictReader(io.StringIO(archive.read("shelf.csv").decode())))
        read = json.loads(archive.read("workshop.json"))
    assert len(rows) == len(Stock(full).items())
    items = [row["item"]["json"] for row in read["tables"]["stock"]]
    assert {item["film"] for item in items} == {item.film for item in Stock(full).items()}


def test_a_workshop_that_holds_something_is_replaced_only_if_that_is_said(full, tmp_path):
    other = demo_store(tmp_path / "other")
    Stock(other).take_out(1, "used")
    before = books_of(other)
    with pytest.raises(WorkshopError, match="to be replaced"):
        import_workshop(other, exported_workshop(full), "walk.zip")
    assert books_of(other) == before
    import_workshop(other, exported_workshop(full), "walk.zip", replace=True)
    assert books_of(other) == books_of(full)


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda read: read.update(revision="9999"), "newer Zinnet"),
        (lambda read: read["tables"].update(sqlite_master=[]), "no workshop has"),
        (lambda read: read["tables"]["stock"].append({"number": 77}), "stock 12 can't be taken over"),
        (lambda read: read["tables"]["stock"][0].update(evil=1), "does not have the columns"),
        (lambda read: read["tables"]["made"][0].update(photo={"base64": "no base!"}), "no value"),
        (lambda read: read["tables"]["made"][0].update(title=[1]), "no value"),
        (lambda read: read.update(tables={"stock": 4}), "is damaged"),
        (lambda read: read.pop("revision"), "is damaged"),
    ],
)
def test_what_is_damaged_changes_nothing(full, tmp_path, change, said):
    other = demo_store(tmp_path / "other")
    before = books_of(other)
    with pytest.raises(WorkshopError, match=said):
        import_workshop(other, changed(exported_workshop(full), change), "walk.zip", replace=True)
    assert books_of(other) == before


@pytest.mark.parametrize("data", [b"", b"no zip", b"PK\x05\x06" + bytes(18)])
def test_what_is_no_export_is_refused(tmp_path, data):
    with pytest.raises(WorkshopError, match="no exported workshop"):
        import_workshop(WorkshopStore(tmp_path / "w.sqlite"), data, "walk.zip")


def test_the_commands_export_and_import(tmp_path):
    run_command("stock", "add", "--film", "cream", "--kind", "roll", "--size", "305x5000mm")
    out = tmp_path / "workshop.zip"
    assert run_command("workshop", "export", out).returncode == 0
    assert (
        "1 entries already" in run_command("workshop", "import", out).stderr
        or "entries already" in run_command("workshop", "import", out).stderr
    )
    done = run_command("workshop", "import", out, "--replace")
    assert (done.returncode, done.stderr) == (0, "")
    assert "cream" in run_command("stock", "list").stdout

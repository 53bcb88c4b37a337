"""What strangers made is read in a process of its own, which is bounded and can be ended."""

import os
import pickle
import signal
import threading

import numpy as np
import pytest
from PIL import Image

from tests.helpers import LANTERN, RED_AND_BLUE, svg
from tests.photo.drawn import photo
from zinnet.base.errors import ArtworkError, ZinnetError
from zinnet.base.log import log_file
from zinnet.base.parcel import ParcelError, packed, unpacked
from zinnet.base.stages import StageCache, cache_in_use
from zinnet.bench import bounded
from zinnet.bench.bounded import Bounded, Patience
from zinnet.bench.document import Document
from zinnet.bench.from_strangers import derive_apart, open_apart, photo_apart
from zinnet.camera.found_sheet import PhotoError, find_sheet
from zinnet.job.edits import add_design, open_artwork
from zinnet.job.model import Job
from zinnet.workshop.model import standard_workshop


class Counted(StageCache):
    """A cache that counts which stages had to be gone through."""

    def __init__(self):
        super().__init__()
        self.made = []

    def keep(self, stage, key, result, most, rests_on=()):
        """Count what is made while the cache is in use."""
        if cache_in_use() is self:
            self.made.append(stage)
        super().keep(stage, key, result, most, rests_on)


@pytest.fixture
def document():
    return Document(standard_workshop(), stages=Counted())


def test_what_is_read_apart_is_not_read_again(document):
    edit = open_artwork("lantern.svg", svg(LANTERN))
    derive_apart(document, edit, "lantern.svg")
    document.stages.made.clear()
    document.apply(edit)
    assert [design.source.file.name for design in document.job.designs] == ["lantern.svg"]
    read_or_drawn = [name for name in document.stages.made if name.startswith(("zinnet.artwork", "zinnet.layers"))]
    assert read_or_drawn == [], "all of it came back from the other process"


def test_a_second_design_is_looked_at_alone(document):
    document.apply(open_artwork("lantern.svg", svg(LANTERN)))
    broken = add_design("moth.svg", b"<svg", None)
    with pytest.raises(ArtworkError, match=r"moth\.svg is not whole XML"):
        derive_apart(document, broken, "moth.svg")
    assert len(document.job.designs) == 1


def test_a_job_is_opened_apart_as_it_is_here(document, tmp_path):
    document.apply(open_artwork("lantern.svg", svg(RED_AND_BLUE)))
    document.save(tmp_path / "walk.zinnet")
    found = open_apart(tmp_path / "walk.zinnet", standard_workshop())
    assert found.job == document.job
    assert found.path == tmp_path / "walk.zinnet"
    assert not found.is_changed
    with pytest.raises(ZinnetError, match="There is no file"):
        open_apart(tmp_path / "none.zinnet", standard_workshop())


def task(patience=None, **bounds):
    job = Job().model_copy(update={"title": "Moth"})
    return Bounded("derive", (job, standard_workshop()), "moth.svg", patience, **bounds)


def test_a_task_that_takes_too_long_is_ended():
    with pytest.raises(ArtworkError, match=r"moth\.svg keeps the program busy for more than 0 s"):
        task(most_s=0.0).answer()


class Waits(Patience):
    """Waits on, and does something when it is asked."""

    def __init__(self, asked=lambda task: None):
        self.asked, self.tasks = asked, []

    def begun(self, task):
        """Take note."""
        self.tasks.append(task)

    def goes_on(self, task):
        """Do what is to be done."""
        self.asked(task)
        return True


def test_a_task_that_takes_long_is_waited_for_where_somebody_says_so():
    asked = []
    patience = Waits(asked.append)
    assert task(patience, most_s=0.0).answer() != {}
    assert asked == patience.tasks
    assert len(asked) == 1


def test_a_task_that_is_left_ends_at_once():
    with pytest.raises(ArtworkError, match=r"moth\.svg was left"):
        task(Waits(lambda one: one.stop()), most_s=0.0).answer()


def test_a_task_that_takes_too_much_memory_is_ended():
    with pytest.raises(ArtworkError, match=r"moth\.svg needs more than 40 MB"):
        task(most_bytes=40 << 20).answer()


def test_a_reader_that_dies_takes_nothing_with_it(monkeypatch):
    worker = bounded._spares.take()
    monkeypatch.setattr(bounded._spares, "take", lambda: worker)
    threading.Timer(0.01, os.kill, (worker.process.pid, signal.SIGSEGV)).start()
    with pytest.raises(ArtworkError, match="it broke the process that reads it"):
        task().answer()
    assert "Reading moth.svg ended with" in log_file().read_text(encoding="utf-8")


class Planted:
    """What a stranger would like to be called when it is unpacked."""

    def __init__(self, called, *given):
        self.called, self.given = called, given

    def __reduce__(self):
        return self.called, self.given


@pytest.mark.parametrize("planted", [Planted(os.system, "true"), Planted(eval, "1"), Planted(packed, 1)])
def test_a_parcel_calls_nothing_but_what_values_of_ours_are_made_of(planted):
    with pytest.raises(ParcelError, match="which is in none of ours"):
        unpacked(pickle.dumps(planted))
    dotted = b"\x80\x04\x8c\x11zinnet.base.files\x8c\x09os.system\x93."
    with pytest.raises(ParcelError):
        unpacked(dotted)
    with pytest.raises(ParcelError):
        unpacked(b"no parcel")


def test_a_photo_is_read_apart_and_one_that_breaks_its_bounds_is_refused(tmp_path, monkeypatch):
    drawn = photo(3, most_tilt=25)
    path = tmp_path / "tee.png"
    Image.fromarray(drawn.picture).save(path)
    found, straight = photo_apart(path, "a4")
    assert np.abs(found.corners - find_sheet(drawn.picture, "a4").corners).max() < 1e-6
    assert straight.picture.dtype == np.uint8
    path.write_bytes(b"%!PS-Adobe-3.0 EPSF-3.0\n")
    with pytest.raises(PhotoError, match=r"tee\.png can't be read as a picture"):
        photo_apart(path, "a4")

"""What all tests share: a virtual screen, folders of their own, and small artworks."""

import os
import socket
import tempfile

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import pytest
from hypothesis import settings

from tests.helpers import NestHere
from zinnet.base.stages import StageCache
from zinnet.bench import recut
from zinnet.cutting import tour
from zinnet.nesting import questions as nesting_questions
from zinnet.nesting import running
from zinnet.plan import nested_ways
from zinnet.shop import questions as shop_questions

settings.register_profile("short", deadline=None, max_examples=8, derandomize=True)
settings.register_profile("long", deadline=None, max_examples=200)
settings.load_profile(os.environ.get("ZINNET_TESTS", "short"))


XDG = ("XDG_STATE_HOME", "XDG_CONFIG_HOME", "XDG_DATA_HOME", "XDG_CACHE_HOME")


@pytest.fixture(autouse=True, scope="session")
def clean_environment(tmp_path_factory):
    """Keep all tests out of the user's folders, out of the machine's temporary folder, and off the network."""
    folder = tmp_path_factory.mktemp("environment")
    connect = socket.socket.connect

    def refuse(self, address):
        if self.family != socket.AF_UNIX:
            raise AssertionError(f"a test reaches for the network: {address}")
        return connect(self, address)

    with pytest.MonkeyPatch.context() as patch:
        for name in XDG:
            patch.setenv(name, str(folder / name.lower()))
        patch.setenv("TMPDIR", str(folder))
        patch.setattr(tempfile, "tempdir", None)
        patch.setattr(socket.socket, "connect", refuse)
        yield


@pytest.fixture(autouse=True, scope="session")
def stages():
    """Keep what stages make from one test to the next: they are pure, and the demos come up in many tests."""
    with StageCache(budget=1 << 40).in_use():
        yield


@pytest.fixture(autouse=True, scope="session")
def short_search():
    """Look for a short way of the knife for less long than a user's cutter waits: how short it gets is a benchmark."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(tour, "MOST_UPSETS", 6)
        yield


@pytest.fixture(autouse=True)
def own_folders(tmp_path, monkeypatch):
    """Keep every test out of the user's folders."""
    for name in XDG:
        monkeypatch.setenv(name, str(tmp_path / name.lower()))
    return tmp_path


@pytest.fixture
def nests_here(monkeypatch):
    """Nest by the narrowest search in this process, where a test is about what follows a nest."""
    for module in (running, nesting_questions, shop_questions, recut, nested_ways):
        monkeypatch.setattr(module, "NestRun", NestHere)


def pytest_xdist_auto_num_workers(config):
    """One more than there are cores: a worker often waits for a timer, a process or a stand-in."""
    return (os.cpu_count() or 1) + 1


def pytest_collection_modifyitems(config, items):
    """Leave what takes long to the long run, but for what is asked for by its name."""
    if os.environ.get("ZINNET_TESTS") == "long" or any("::" in word for word in config.args):
        return
    left_out = [item for item in items if item.get_closest_marker("long") is not None]
    config.hook.pytest_deselected(items=left_out)
    items[:] = [item for item in items if item.get_closest_marker("long") is None]

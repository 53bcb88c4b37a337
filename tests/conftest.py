"""What all tests share: a virtual screen, folders of their own, and small artworks."""

import os

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import pytest
from hypothesis import settings

from zinnet.base.stages import StageCache

settings.register_profile("short", deadline=None, max_examples=20, derandomize=True)
settings.register_profile("long", deadline=None, max_examples=200)
settings.load_profile(os.environ.get("ZINNET_TESTS", "short"))


@pytest.fixture(autouse=True, scope="session")
def stages():
    """Keep what stages make from one test to the next: they are pure, and the demos come up in many tests."""
    with StageCache().in_use():
        yield


@pytest.fixture(autouse=True)
def own_folders(tmp_path, monkeypatch):
    """Keep every test out of the user's folders."""
    for name in ("XDG_STATE_HOME", "XDG_CONFIG_HOME", "XDG_DATA_HOME", "XDG_CACHE_HOME"):
        monkeypatch.setenv(name, str(tmp_path / name.lower()))
    return tmp_path

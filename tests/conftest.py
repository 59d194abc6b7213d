"""Shared: every test has a home of its own, no screen, and a clock that it moves."""

import fcntl
import os

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import shutil
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from hypothesis import settings
from hypothesis.internal.conjecture import providers

from even_beam.bench.records import Meter, Session, Source, Terms, new_id
from even_beam.desk.session.desk import SessionDesk
from even_beam.logbook.store import Logbook
from even_beam.words import notation

settings.register_profile("steady", derandomize=True, database=None, deadline=None, max_examples=60)  # always the same
settings.register_profile("searching", deadline=None, max_examples=2000)  # HYPOTHESIS_PROFILE=searching: new ones
settings.load_profile(PROFILE := os.environ.get("HYPOTHESIS_PROFILE", "steady"))
if PROFILE == "steady":
    # examples otherwise hold constants of whichever local modules are loaded, so of what ran before in this process
    providers._get_local_constants = lambda: providers._local_constants


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """What takes longest first, so that no core waits for one of them at the end."""
    items.sort(key=lambda item: ("window" not in item.keywords, "long" not in item.keywords))


class Clock:
    def __init__(self) -> None:
        self.now = datetime(2026, 11, 20, 18, 0, tzinfo=UTC)

    def __call__(self) -> datetime:
        self.now += timedelta(seconds=1)
        return self.now


@pytest.fixture(autouse=True)
def home(tmp_path_factory, monkeypatch):
    folder = tmp_path_factory.mktemp("home")
    for name in ("XDG_CONFIG_HOME", "XDG_DATA_HOME", "XDG_CACHE_HOME", "XDG_STATE_HOME"):
        monkeypatch.setenv(name, str(folder / name))
    notation.speak()
    return folder


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture
def logbook(tmp_path):
    book = Logbook.create(tmp_path / "test.evenbeam")
    yield book
    book.close()


SPECTROMETER = Meter("meter-s", "Spectrometer", simulated="spectrometer")
LIGHT_METER = Meter("meter-l", "Light meter", kind="light meter", quantities=("illuminance",))


@pytest.fixture
def desk(logbook, clock) -> SessionDesk:
    """A session with one simulated lamp, two meters, and no run."""
    session = Session(new_id(), "Test", clock())
    logbook.save(SPECTROMETER, LIGHT_METER, session)
    logbook.save(Source("lamp", "Tansy", simulated="six-emitter colour light"), Source("other", "Sorrel"))
    desk = SessionDesk(logbook, session, clock)
    desk.free_source, desk.free_meter = "lamp", LIGHT_METER.id
    desk.free_terms = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
    return desk


@pytest.fixture(scope="session")
def built_demo(tmp_path_factory, worker_id) -> Path:
    """The demo, built once by whichever worker needs it first; the others wait for it."""
    from even_beam.demo.scenario import build

    own = tmp_path_factory.getbasetemp()
    folder = (own if worker_id == "master" else own.parent) / "built demo"
    folder.mkdir(exist_ok=True)
    path = folder / "demo.evenbeam"
    with (folder / "lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not path.exists():
            build(folder / "building.evenbeam")
            (folder / "building.evenbeam").rename(path)
    return path


@pytest.fixture
def demo(built_demo, tmp_path) -> Path:
    return Path(shutil.copy(built_demo, tmp_path / "demo.evenbeam"))

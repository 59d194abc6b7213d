"""The demo where its folder cannot be written, and a screen that does not answer: plain words, no traceback, and
nothing left behind."""

import socket

import pytest

from even_beam.app import start
from even_beam.demo.place import DemoPlace, NoDemoError
from even_beam.logbook import LogbookError
from even_beam.logbook.store import Logbook
from even_beam.shell import places


@pytest.fixture
def nowhere(tmp_path, monkeypatch):
    """A cache folder that cannot be made, for its parent is a file; root may write anywhere else."""
    blocking = tmp_path / "file"
    blocking.write_text("no folder")
    monkeypatch.setattr(places, "cache_folder", lambda: blocking / "even-beam")


@pytest.mark.long
def test_it_is_built_elsewhere_and_goes_with_the_program(nowhere):
    with DemoPlace() as place:
        path = place.path()
        assert place.is_passing
        book = Logbook.open(path)
        assert len(book.sessions()) == 7
        book.close()
        assert place.path() == path
    assert not path.parent.exists()


def test_a_place_that_can_be_written_is_kept(tmp_path, monkeypatch):
    monkeypatch.setattr(places, "cache_folder", lambda: tmp_path / "cache")
    built = []
    monkeypatch.setattr(
        "even_beam.demo.scenario.build", lambda path: (path.parent.mkdir(), path.touch(), built.append(path))
    )
    place = DemoPlace()
    assert place.path() == place.path()
    assert len(built) == 1
    assert built[0].parent == tmp_path / "cache"
    assert not place.is_passing


def test_where_it_can_be_built_nowhere_the_message_says_so(nowhere, monkeypatch):
    def full(path):
        raise LogbookError("The disk is full.", "Nothing was changed.", "Make room.")

    monkeypatch.setattr("even_beam.demo.scenario.build", full)
    with DemoPlace() as place, pytest.raises(NoDemoError, match="The disk is full") as raised:
        place.path()
    assert "No logbook was touched" in str(raised.value)


@pytest.mark.parametrize(("display", "said"), [(":77", "does not answer"), ("", "no screen"), ("nonsense", "does not")])
def test_a_screen_that_cannot_be_reached_is_said(monkeypatch, display, said):
    monkeypatch.delenv("QT_QPA_PLATFORM", raising=False)
    monkeypatch.delenv("WAYLAND_DISPLAY", raising=False)
    monkeypatch.setenv("DISPLAY", display)
    monkeypatch.setattr(socket.socket, "connect", lambda *_: (_ for _ in ()).throw(OSError("refused")))
    assert said in start.display_problem()

"""Another logbook dropped on the Bench, and sharing with a hub, in the window."""

import pytest
from PyQt6.QtCore import QMimeData, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent
from PyQt6.QtWidgets import QRadioButton

from even_beam.app.sharing import several_benches as module
from even_beam.app.sharing.merge_dialog import MergeDialog
from even_beam.app.sharing.share_dialog import ShareDialog
from even_beam.bench.records import Source
from tests.answers.sharing.benches import Bench


@pytest.fixture
def two(open_window, tmp_path):
    """A window on one bench's logbook, and another bench with a lamp of the same name."""
    here, other = Bench(tmp_path / "attic.evenbeam"), Bench(tmp_path / "barn.evenbeam")
    for bench, level in ((here, 800.0), (other, 400.0)):
        session = bench.session(f"Evening in the {bench.path.stem}")
        bench.read(session, bench.lamp("Tansy", "Garden six"), level, level + 1.0)
    return open_window(here.path), other


@pytest.fixture
def told(monkeypatch):
    """What dialogs tell."""
    found: list[str] = []
    monkeypatch.setattr(module.dialogs, "tell", lambda parent, title, words: found.append(f"{title}: {words}"))
    return found


def answered(monkeypatch, words: str):
    """Answer every question with the button of some words, and accept."""

    def exec_(dialog):
        for button in dialog.findChildren(QRadioButton):
            if words in button.text():
                button.click()
        return True

    monkeypatch.setattr(MergeDialog, "exec", exec_)


def drop(window, path):
    mime = QMimeData()
    mime.setUrls([QUrl.fromLocalFile(str(path))])
    left, none = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    window.bench.dropEvent(QDropEvent(QPointF(9, 9), Qt.DropAction.CopyAction, mime, left, none))


def lamps(window) -> list[str]:
    return [one.nickname for one in window.document.logbook.all(Source)]


def levels(window, name: str) -> list[float]:
    (own,) = [one for one in window.document.logbook.all(Source) if one.nickname == name]
    return sorted(r.values[0].value for r in window.document.logbook.history_of(own.id, figures=True).readings)


@pytest.mark.parametrize(
    ("words", "names"),
    [
        ("the same lamp", ["Tansy"]),
        ("another unit", ["Tansy", "Tansy (barn)"]),
        ("another lamp", ["Tansy", "Tansy (barn)"]),
    ],
)
def test_a_dropped_logbook_is_asked_about_and_taken_in(two, told, qtbot, monkeypatch, words, names):
    window, other = two
    answered(monkeypatch, words)
    drop(window, other.path)
    qtbot.waitUntil(lambda: not window.busy and bool(told or "barn" in window.said), timeout=20_000)
    assert lamps(window) == names
    assert levels(window, "Tansy") == ([400.0, 401.0, 800.0, 801.0] if len(names) == 1 else [800.0, 801.0])
    assert [card.source.nickname for card in window.document.kit.lamps()] == names


def test_left_it_changes_nothing(two, qtbot, monkeypatch):
    window, other = two
    monkeypatch.setattr(MergeDialog, "exec", lambda dialog: False)
    drop(window, other.path)
    qtbot.waitUntil(lambda: not window.busy, timeout=20_000)
    assert lamps(window) == ["Tansy"]


def test_the_question_says_what_is_known_of_either(two, qtbot, monkeypatch):
    window, other = two
    seen = []
    monkeypatch.setattr(MergeDialog, "exec", lambda dialog: seen.append(dialog) or False)
    drop(window, other.path)
    qtbot.waitUntil(lambda: bool(seen), timeout=20_000)
    from PyQt6.QtWidgets import QLabel

    words = " ".join(label.text() for label in seen[0].findChildren(QLabel))
    assert "Both have a Tansy" in words
    assert "here: Garden six, 2 readings in 1 session; in barn: Garden six, 2 readings in 1 session" in words


def test_what_is_no_logbook_is_told_and_changes_nothing(two, told, qtbot, tmp_path):
    window, _ = two
    strange = tmp_path / "list.evenbeam"
    strange.write_text("lamp,lux")
    drop(window, strange)
    qtbot.waitUntil(lambda: bool(told), timeout=20_000)
    assert "not an Even Beam logbook" in told[0] and "as it was" in told[0]


def shared(window, qtbot, monkeypatch, address):
    monkeypatch.setattr(ShareDialog, "exec", lambda dialog: True)
    monkeypatch.setattr(ShareDialog, "address", property(lambda dialog: str(address)))
    window._benches.ask_share()
    qtbot.waitUntil(lambda: not window.busy, timeout=20_000)


def test_it_is_shared_and_the_head_says_so(two, told, qtbot, monkeypatch, tmp_path):
    from even_beam.answers.sharing.sharing import share
    from even_beam.logbook.store import Logbook
    from tests.answers.sharing.benches import NOW

    window, other = two
    book = Logbook.open(other.path)
    share(book, str(tmp_path / "hub"), lambda: NOW)
    book.close()
    shared(window, qtbot, monkeypatch, tmp_path / "hub")
    qtbot.waitUntil(lambda: "shared " in window._head.accessibleName(), timeout=20_000)
    assert lamps(window) == ["Tansy", "Tansy (barn)"]
    assert levels(window, "Tansy (barn)") == [400.0, 401.0]


def test_a_hub_that_is_gone_is_told_and_nothing_waits_for_it(two, told, qtbot, monkeypatch, tmp_path):
    window, _ = two
    shared(window, qtbot, monkeypatch, tmp_path / "hub")
    (tmp_path / "hub").rename(tmp_path / "stick taken out")
    told.clear()
    shared(window, qtbot, monkeypatch, tmp_path / "hub")
    qtbot.waitUntil(lambda: bool(told), timeout=20_000)
    assert "Is its disk connected" in told[0] and "tried again by itself" in told[0]
    assert "hub not reached" in window._head.accessibleName()


def test_without_a_hub_the_dialog_says_what_to_name(two, qtbot):
    window, _ = two
    dialog = ShareDialog(window, [])
    qtbot.addWidget(dialog)
    dialog.try_accept()
    assert "Name a folder or a server" in dialog.fault.text()

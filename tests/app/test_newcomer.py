"""What a daily job costs in keys, counted as a newcomer presses them: nothing is done but by the keyboard."""

from dataclasses import dataclass

import pytest
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from even_beam.app.stations.bench.earlier_dialog import EarlierDialog
from even_beam.app.stations.bench.lamp_dialog import LampDialog
from even_beam.app.stations.bench.names_dialog import NamesDialog
from even_beam.bench.records import Meter, Source
from even_beam.logbook.store import Logbook

HAND = Meter("hand", "Hand meter", kind="light meter", quantities=("illuminance",))
PAGE_DOWN = Qt.Key.Key_PageDown
ENTER = Qt.Key.Key_Return


@dataclass(frozen=True)
class Alt:
    """A letter with Alt, which counts as one key."""

    letter: str


class Counting:
    """Keys where the focus is, also in a dialog that they open, counted."""

    def __init__(self, window, qtbot) -> None:
        self.window, self.qtbot, self.count = window, qtbot, 0

    def press(self, *keys: object) -> None:
        for key in keys:
            self.count += 1
            dialog = QApplication.activeModalWidget()
            target = (
                (dialog.focusWidget() or dialog) if dialog is not None else self.window.focusWidget() or self.window
            )
            if isinstance(key, Alt):
                QTest.keyClick(target, Qt.Key(ord(key.letter)), Qt.KeyboardModifier.AltModifier)
            elif isinstance(key, str):
                QTest.keyClicks(target, key)
            else:
                QTest.keyClick(target, key)
            self.qtbot.waitUntil(lambda: not self.window.busy, timeout=10_000)

    def during(self, kind: type, *keys: object) -> None:
        """What is pressed once a dialog stands there, before it is left."""

        def act() -> None:
            assert isinstance(QApplication.activeModalWidget(), kind)
            self.press(*keys)

        QTimer.singleShot(0, act)


@pytest.fixture
def empty(tmp_path, open_window):
    book = Logbook.create(tmp_path / "new.evenbeam")
    book.save(HAND, Source("one", "Tansy"), Source("two", "Sorrel"))
    book.close()
    return open_window(tmp_path / "new.evenbeam")


def test_two_lamps_at_four_levels_from_a_hand_meter(empty, qtbot):
    keys = Counting(empty, qtbot)
    for name, figures in (("T", ("820", "410", "205", "82")), ("S", ("790", "395", "198", "79"))):
        keys.during(LampDialog, *name, ENTER)
        keys.press(Alt("L"))
        for figure in figures:
            keys.press(PAGE_DOWN, *figure, ENTER)
            if empty.bench.desk.asks_for_meter:
                keys.press(ENTER)  # the hand meter, once an evening
    desk = empty.document.desk
    read = [(desk.name_of(m.reading.source_ids), m.terms.level_pct, m.value("illuminance")) for m in desk.counted]
    assert read == [
        ("Tansy", 100.0, 820.0), ("Tansy", 50.0, 410.0), ("Tansy", 25.0, 205.0), ("Tansy", 10.0, 82.0),
        ("Sorrel", 100.0, 790.0), ("Sorrel", 50.0, 395.0), ("Sorrel", 25.0, 198.0), ("Sorrel", 10.0, 79.0),
    ]  # fmt: skip
    assert {m.reading.meter_id for m in desk.counted} == {"hand"}
    assert keys.count <= 45, keys.count


def test_a_slip_ten_readings_ago_is_mended(empty, qtbot):
    desk = empty.bench.desk
    desk.free_source = "one"
    for metres, lux in ((1.0, 3200), (2.0, 800), (3.0, 536), (4.0, 200), (5.0, 128)):  # 356 was meant at 3 m
        desk.confirm(desk.propose(f"{lux} lx at {metres} m"), keep_in_doubt=True)
    desk.free_source = "two"
    for level in (100, 90, 80, 70, 60, 50, 40):
        desk.confirm(desk.propose(f"{5 * level} lx {level} %"), keep_in_doubt=True)
    empty.bench.refresh()
    keys = Counting(empty, qtbot)
    keys.during(EarlierDialog, ENTER, *"356", ENTER)
    QTimer.singleShot(400, lambda: QApplication.activeModalWidget().reject())
    keys.press(Alt("E"))
    mended = [m for m in desk.counted if m.terms.distance_m == 3.0 and m.source_id == "one"]
    assert [m.value("illuminance") for m in mended] == [356.0]
    old = next(m for m in desk.measured if m.value("illuminance") == 536.0)
    assert old.state.standing == "read again"  # it stays, marked
    assert keys.count <= 6
    desk.undo()
    assert desk.of(old.reading.id).state.counts


def test_eight_spectra_of_eight_lamps_are_named_in_one_pass(empty, qtbot, tmp_path):
    folder = tmp_path / "Spring shoot"
    folder.mkdir()
    for i, name in enumerate(("Tansy", "Sorrel", "Heron", "Rail", "Crake", "Dunlin", "Knot", "Teal")):
        rows = "\n".join(f"{w},{1.0 + (w - 380) / 400:.4f}" for w in range(380, 781, 5))
        (folder / f"{name} 5600 {10 * (i + 1)}.csv").write_text(f"nm,value\n{rows}\n", encoding="utf-8")
    keys = Counting(empty, qtbot)

    def act() -> None:
        dialog = QApplication.activeModalWidget()
        assert isinstance(dialog, NamesDialog)
        QTest.keyClick(dialog, ENTER, Qt.KeyboardModifier.ControlModifier)

    QTimer.singleShot(600, act)
    empty.bench.take_files([folder])
    qtbot.waitUntil(lambda: empty.document.desk is not None and len(empty.document.desk.measured) == 8, timeout=10_000)
    desk = empty.document.desk
    assert desk.session.name == "Spring shoot"
    assert {desk.name_of(m.reading.source_ids) for m in desk.measured} >= {"Tansy", "Sorrel", "Teal"}
    assert sorted(m.terms.level_pct for m in desk.measured) == [10.0 * (i + 1) for i in range(8)]
    assert keys.count == 0

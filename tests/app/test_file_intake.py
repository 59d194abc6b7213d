"""Files dropped on the Bench: old tests in columns of one's own, logs, and what cannot be read."""

from datetime import UTC, datetime

import pytest
from PIL import Image
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from even_beam.answers.bench import earlier
from even_beam.answers.intake import importing
from even_beam.app.stations.bench import file_intake
from even_beam.app.stations.bench.columns_dialog import ColumnsDialog
from even_beam.app.stations.bench.earlier_dialog import EarlierDialog
from even_beam.collection.collection import Collection
from even_beam.handing_over.folder import write_folder
from even_beam.logbook.store import Logbook
from even_beam.shell.settings import Settings


@pytest.fixture
def window(open_window, tmp_path):
    return open_window(tmp_path / "new.evenbeam")


def look(window) -> str:
    return window.bench.board.look.accessibleName()


@pytest.fixture
def told(monkeypatch):
    said = []
    monkeypatch.setattr(file_intake.dialogs, "tell", lambda parent, title, text: said.append(f"{title}: {text}"))
    return said


def drop(window, qtbot, *paths) -> None:
    window.bench.take_files(list(paths))
    qtbot.waitUntil(lambda: not window.busy, timeout=10_000)
    qtbot.wait(20)
    qtbot.waitUntil(lambda: not window.busy, timeout=10_000)


def test_columns_are_asked_about_once(window, qtbot, tmp_path, monkeypatch, told):
    path = tmp_path / "garden.csv"
    path.write_text("Lamp,Grade,Lux\nYarrow,3200,1600\nSorrel,5600,2210\nSorrel,5600,22l0\n")
    asked = []

    class Answering(ColumnsDialog):
        def exec(self) -> int:
            asked.append(self._result.text())
            self.choose("Lux", "")
            assert "no column holds a figure" in self._result.text()
            assert not self.accept_button.isEnabled()
            self.choose("Lux", "measured illuminance")
            self.choose("Grade", "cct_k")
            self.accept()
            return 1

    monkeypatch.setattr(file_intake, "ColumnsDialog", Answering)
    drop(window, qtbot, path)
    assert asked[0].startswith("3 readings of Sorrel, Yarrow") or asked[0].startswith("2 readings")
    assert [m.terms.cct_k for m in window.document.desk.counted] == [3200.0, 5600.0]
    assert "Old tests are in" in look(window)
    assert "line 4" in told[0]
    drop(window, qtbot, path)
    assert len(asked) == 1
    assert len(window.document.logbook.sessions()) == 1
    assert "2 readings were there already and not taken twice" in look(window)


def test_a_log_becomes_a_reading_with_its_picture(window, qtbot, tmp_path):
    path = tmp_path / "power.csv"
    path.write_text(
        "seconds,power_w\n" + "".join(f"{t},{120 - 20 * 0.5 ** (t / 60):.3f}\n" for t in range(0, 1200, 10))
    )
    drop(window, qtbot, path)
    (reading,) = window.document.desk.counted
    assert reading.value("power_w") == pytest.approx(120.0, abs=0.1)
    assert "within 1 % from" in look(window)
    assert "power against time" in window.bench.board._chart.chart.title


@pytest.mark.parametrize("content", [b"", b"\x00\x01\x02 binary", b"time,lux\n0,1\n1,x\n2,3\n"])
def test_a_wrong_file_is_said_and_keeps_nothing(window, qtbot, tmp_path, told, content):
    path = tmp_path / "wrong.csv"
    path.write_bytes(content)
    drop(window, qtbot, path)
    assert "wrong.csv" in told[0]
    assert window.document.desk is None or not window.document.desk.measured


def test_a_dropped_photo_goes_with_the_last_reading(window, tmp_path, hands):
    path = tmp_path / "set.png"
    Image.new("RGB", (40, 20)).save(path)
    window.bench.take_files([path])
    assert window.document.desk is None or not window.document.desk.photos()
    hands.type(window, "820 lx")
    window.bench.take_files([path])
    assert window.document.desk.photos()[0].reading_id == window.document.desk.measured[0].reading.id
    assert "Photo kept" in look(window)
    (tmp_path / "broken.jpg").write_bytes(b"no")
    window.bench.take_files([tmp_path / "broken.jpg"])
    assert "was not kept" in look(window)
    hands.act(window, "h")
    hands.type(window, "a hand was in the beam")
    assert not window.document.desk.counted
    assert window.document.desk.measured[0].state.standing == "set aside"


SLIPPED = """session,fixture,cct,level,distance,quantity,value
Old evening,Yarrow,3200,100,2 m,illuminance,1600
Old evening,Yarrow,3200,100,3 m,illuminance,711
Old evening,Yarrow,3200,100,4 m,illuminance,4000
Old evening,Yarrow,3200,100,5 m,illuminance,256
Old evening,Yarrow,3200,100,6 m,illuminance,1780
"""


def test_imported_doubts_are_walked_through_by_the_keys_of_the_bench(window, qtbot, tmp_path, monkeypatch, told):
    path = tmp_path / "slipped.csv"
    path.write_text(SLIPPED)
    monkeypatch.setattr(file_intake.ColumnsDialog, "exec", lambda self: (self.accept(), 1)[1])
    seen = []

    def walk(dialog) -> int:
        seen.append((dialog._waiting.text(), dialog.chosen))
        QTest.keyClicks(dialog._table, "*")
        seen.append(dialog._line.text())
        QTest.keyClick(dialog._line, Qt.Key.Key_Return)
        seen.append((dialog._waiting.text(), dialog.chosen))
        QTest.keyClicks(dialog._table, "/")
        seen.append(dialog._waiting.isVisibleTo(dialog))
        return 1

    monkeypatch.setattr(EarlierDialog, "exec", walk)
    drop(window, qtbot, path)
    assert seen[0][0].startswith("2 in doubt, counted in nothing yet")
    assert seen[1] == "178 lx", "the newest first: a slipped factor of ten"
    assert seen[2][0].startswith("1 in doubt")
    assert seen[2][1] != seen[0][1], "the next one is there"
    assert seen[3] is False
    levels = sorted(m.value("illuminance") for m in window.document.desk.counted)
    assert levels == [178.0, 256.0, 711.0, 1600.0]
    assert "5 readings with 5 figures into “Old evening”" in look(window)


def test_what_a_table_held_and_was_not_understood_stands_beside_its_reading(window, qtbot, tmp_path, monkeypatch, told):
    path = tmp_path / "typed.csv"
    path.write_text("Lamp,Set CCT,Dim,Dist ft,FC,Ra\nYarrow,3200,100,10,160,99\nYarrow,3200,50,10,8o,99\n")
    monkeypatch.setattr(file_intake.ColumnsDialog, "exec", lambda self: (self.accept(), 1)[1])
    drop(window, qtbot, path)
    newest, oldest = earlier.rows(window.document.desk)
    assert (newest.figures, oldest.figures) == ("Ra 99", "1\u202f722 lx · Ra 99")
    assert "“8o”" in newest.noted
    assert not newest.waits
    earlier.mend(window.document.desk, newest.reading_id, "80 fc")
    mended = next(row for row in earlier.rows(window.document.desk) if row.standing == "")
    assert mended.figures == "861 lx · Ra 99"


def test_open_data_of_another_logbook_comes_in_by_its_folder_or_file(window, qtbot, tmp_path, told):
    given = _handed_over(tmp_path)
    drop(window, qtbot, given)
    assert [one.name for one in window.document.logbook.sessions()] == ["A walk"]
    (reading,) = window.document.desk.counted
    assert reading.value("illuminance") == 820.0
    drop(window, qtbot, given / "session.json")
    assert len(window.document.logbook.sessions()) == 1
    assert "1 reading was there already and not taken twice" in look(window)
    (tmp_path / "torn").mkdir()
    (tmp_path / "torn" / "session.json").write_bytes((given / "session.json").read_bytes()[:900])
    drop(window, qtbot, tmp_path / "torn")
    assert "session.json" in told[0] and len(window.document.logbook.sessions()) == 1


def _handed_over(folder):
    table = folder / "walk.csv"
    table.write_text("session,fixture,cct_k,distance,quantity,value\nA walk,Yarrow,3200,2 m,illuminance,820\n")
    logbook = Logbook.create(folder / "other.evenbeam")
    importing.import_files([table], logbook, lambda: datetime(2031, 4, 2, tzinfo=UTC))
    write_folder(Collection(logbook), Settings(), None, folder / "given")
    logbook.close()
    return folder / "given"

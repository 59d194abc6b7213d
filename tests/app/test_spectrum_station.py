import time

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QDialog, QLabel

from even_beam.app import dialogs
from even_beam.app.stations.spectrum import station as spectrum_station
from even_beam.app.window import BENCH, SPECTRUM
from even_beam.bench.records import FileMapping, Subject
from even_beam.light import WAVELENGTH_NM, daylight


@pytest.fixture
def window(open_window, demo):
    return open_window(demo, SPECTRUM)


def wait(window, qtbot) -> None:
    qtbot.waitUntil(lambda: not window.busy and window.spectrum._view is not None, timeout=15_000)


def table(path, factor=1.0):
    rows = "\n".join(
        f"{w:g};{0.001};{v * factor:.6f}" for w, v in zip(WAVELENGTH_NM[::5], daylight(5503.0)[::5], strict=True)
    )
    path.write_text(f"nm;dark;lamp\n{rows}")
    return path


def texts(window) -> str:
    return " ".join(label.text() for label in window.spectrum.findChildren(QLabel))


def test_a_file_opened_straight_in_the_window(window, qtbot, tmp_path):
    assert "Open a file" in window.spectrum._empty.text()
    window.spectrum.open_path(table(tmp_path / "d55.csv"))
    wait(window, qtbot)
    assert window.spectrum.head()[1] == "1 of 2"
    window.spectrum.press("→")
    wait(window, qtbot)
    qtbot.waitUntil(lambda: "lamp" in window.spectrum._view.name, timeout=5000)
    window.spectrum.press("F")
    shown = texts(window)
    for words in (
        "colour temperature",
        "off daylight curve",
        "Ra (R1–R8)",
        "mean of 15, not Ra",
        "against P3200",
        "against D55",
        "Qa",
        "R9 is a deep red",
        "means nothing without its reference",
    ):
        assert words in shown, words
    for chart in (*window.spectrum._charts.values(), *window.spectrum.figures.charts.values()):
        assert not chart.chart.empty
        assert chart.accessibleDescription()
    assert len(window.spectrum.figures.eye._pairs) == 26
    window.spectrum.press("Ctrl C")
    before = len(window.document.bench().measured)
    window.spectrum.press("K")
    assert len(window.document.bench().measured) == before, "whose it is is asked"
    window.spectrum._line.edit.setText("Nobody@cct=5600")
    QTest.keyClick(window.spectrum._line.edit, Qt.Key.Key_Return)
    assert "there is no lamp “Nobody”" in window.spectrum._line._fault.text()
    lamp = next(iter(window.document.desk.sources.values()))
    window.spectrum._line.edit.setText(f"{lamp.nickname}@cct=5600;level=50")
    QTest.keyClick(window.spectrum._line.edit, Qt.Key.Key_Return)
    kept = window.document.desk.measured[-1].reading
    assert kept.note.startswith("from file") and kept.source_ids == (lamp.id,)
    assert (kept.terms.cct_k, kept.terms.level_pct) == (5600.0, 50.0)


def test_a_light_is_shown_by_what_it_does_to_subjects(window, qtbot, tmp_path, monkeypatch):
    path = tmp_path / "line.csv"
    rows = "\n".join(f"{w:g},{v:.6f}" for w, v in zip(WAVELENGTH_NM[::5], daylight(5503.0)[::5], strict=True))
    path.write_text(f"nm,value\n{rows}")
    window.spectrum.open_path(path)
    wait(window, qtbot)
    shown = texts(window)
    assert "Every subject stays as it is" in shown
    assert "on the daylight curve: neither green nor magenta" in shown
    assert "skin as it is" in window.spectrum._subjects.accessibleDescription()
    assert window.spectrum._pages.currentIndex() == 0
    opened = []
    monkeypatch.setattr(spectrum_station.SubjectDialog, "exec", lambda self: opened.append(self.windowTitle()))
    for key in (Qt.Key.Key_Down, Qt.Key.Key_Return):
        QTest.keyClick(window.spectrum._subjects, key)
    assert opened == ["deep reds: as they are"]
    window.spectrum.press("C")
    assert "standard camera" in window.spectrum._subjects.accessibleName()
    window.spectrum.press("F")
    assert window.spectrum._pages.currentIndex() == 1


def test_the_mapping_dialog_previews_and_remembers(window, qtbot, tmp_path, monkeypatch):
    seen = {}

    class Answering(spectrum_station.MappingDialog):
        def exec(self) -> int:
            seen["before"] = self._result.text()
            self._first.setValue(60)
            seen["wrong"] = self._result.text()
            self._first.setValue(2)
            self._columns.setText("2")
            self._unit.setCurrentText("mW/m2")
            seen["after"] = self._result.text()
            self.try_accept()
            return QDialog.DialogCode.Accepted

    monkeypatch.setattr(spectrum_station, "MappingDialog", Answering)
    window.spectrum.open_path(table(tmp_path / "first.csv"))
    wait(window, qtbot)
    window.spectrum.press("M")
    qtbot.waitUntil(lambda: not window.busy, timeout=15_000)
    assert seen["before"].startswith("2 spectra")
    assert seen["after"].startswith("one spectrum")
    assert "mW/m2" in seen["after"]
    assert seen["wrong"] != seen["before"]
    assert len(window.document.logbook.all(FileMapping)) == 1
    window.spectrum.open_path(table(tmp_path / "second.csv", 2.0))
    qtbot.waitUntil(lambda: not window.busy and window.spectrum._opened.path.name == "second.csv", timeout=15_000)
    assert len(window.spectrum._spectra) == 1


def test_bad_files_are_told_calmly(window, qtbot, tmp_path, monkeypatch):
    told = []
    monkeypatch.setattr(dialogs, "tell", lambda parent, title, message: told.append(message))
    bad = tmp_path / "bad.csv"
    bad.write_text("hello")
    window.spectrum.open_path(bad)
    qtbot.waitUntil(lambda: bool(told), timeout=5000)
    assert "no table" in told[0]
    assert "left as it is" in told[0]


def test_writing_and_reading_back(window, qtbot, tmp_path, monkeypatch):
    window.spectrum.open_path(table(tmp_path / "d55.csv"))
    wait(window, qtbot)
    out = tmp_path / "out.xml"
    monkeypatch.setattr(spectrum_station.QFileDialog, "getSaveFileName", lambda *_: (str(out), ""))
    window.spectrum.press("W")
    assert "IESTM2714" in out.read_text()


def test_from_the_bench_with_one_key(window, qtbot):
    window.go(BENCH)
    window.bench.press("I")
    wait(window, qtbot)
    assert window.station is window.spectrum
    assert "Tansy" in window.spectrum._view.name


def test_coloured_light_shows_what_there_is(window, qtbot):
    from even_beam.bench.records import Spectrum

    green = np.exp(-(((WAVELENGTH_NM - 525.0) / 15.0) ** 2))
    window.show_spectrum("Green", Spectrum(WAVELENGTH_NM, green, False))
    wait(window, qtbot)
    window.spectrum.press("F")
    qtbot.waitUntil(lambda: "none: the light is coloured" in texts(window), timeout=5000)
    assert window.spectrum.figures.charts["samples"].chart.empty


def test_ones_own_subjects_stand_below_the_published_ones(window, qtbot, tmp_path):
    window.spectrum.open_path(table(tmp_path / "d55.csv"))
    wait(window, qtbot)
    rows = window.spectrum._view.by_eye
    assert [row.name for row in rows][-2:] == ["poppy petal", "pressing paper"], "the demo's petals and leaves"
    assert rows[-1].evidence == "" and rows[0].evidence != ""
    petal = next(one for one in window.document.logbook.all(Subject) if one.nickname == "poppy petal")
    window.document.kit.put("petal out", None, petal)
    wait(window, qtbot)
    qtbot.waitUntil(lambda: "poppy petal" not in [row.name for row in window.spectrum._view.by_eye], timeout=10_000)


def test_quick_keys_show_and_keep_what_was_asked_last(window, qtbot, tmp_path, monkeypatch):
    """Jobs end in any order: one spectrum stood under another's number, and K kept that one."""
    usual, waits = spectrum_station.view_of, iter([0.4, 0.25, 0.0, 0.3, 0.0, 0.1])

    def slow(*given):
        time.sleep(next(waits, 0.0))
        return usual(*given)

    grid = WAVELENGTH_NM[::5]
    names = [f"lamp{n}" for n in range(4)]
    whites = [daylight(5000.0 + 500.0 * n)[::5] for n in range(4)]
    rows = [";".join([f"{w:g}", *(f"{one[i]:.6f}" for one in whites)]) for i, w in enumerate(grid)]
    path = tmp_path / "four.csv"
    path.write_text(";".join(["nm", *names]) + "\n" + "\n".join(rows))
    monkeypatch.setattr(spectrum_station, "view_of", slow)
    station, said = window.spectrum, []
    monkeypatch.setattr(station.host, "say", said.append)
    station.open_path(path)
    qtbot.waitUntil(lambda: len(station._spectra) == 4, timeout=15_000)
    before = len(window.document.bench().measured)
    for _ in range(3):
        station.press("→")
        station.press("K")
        (name,), count = station.head()[0][1:] or ("",), station.head()[1]
        assert not name or name == station._spectra[int(count.split(" ")[0]) - 1].name
    assert len(window.document.bench().measured) == before  # what is not in view yet is not kept
    assert any("on its way" in words for words in said)
    qtbot.waitUntil(lambda: not window.busy and not station._asker.is_asking, timeout=15_000)
    assert station.head() == (("Spectrum", station._spectra[3].name), "4 of 4")
    station.press("K")
    QTest.keyClick(station._line.edit, Qt.Key.Key_Return)
    assert station._spectra[3].name in window.document.bench().measured[-1].reading.note

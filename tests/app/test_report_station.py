"""Report: previewed, arranged, handed over in every form, left off; all by its keys."""

import re
from pathlib import Path

import pytest
from PIL import Image
from pypdf import PdfReader
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QFileDialog

from even_beam.app import dialogs
from even_beam.app.stations.report.label_dialog import LabelDialog
from even_beam.app.stations.report.picture_dialog import PictureDialog
from even_beam.app.window import REPORT
from even_beam.handing_over.arrangement import kept_arrangement
from even_beam.handing_over.kinds import PLANS, Kind
from even_beam.logbook.store import Logbook

HOW_FAR = re.compile(r"Making the preview: (section \d+|setting the pages)")
SPECIMEN, SMALL = "Specimen table: Tansy or tungsten?", "Glasshouse, north window"


@pytest.fixture
def window(open_window, demo):
    return open_window(demo)


@pytest.fixture
def report(window, qtbot):
    """On the session that is asked most of."""
    return _on(window, qtbot, SPECIMEN)


@pytest.fixture
def small_report(window, qtbot):
    """On one whose report is made at once."""
    return _on(window, qtbot, SMALL)


def _on(window, qtbot, session):
    window.go(REPORT)
    _settle(window, qtbot)  # a preview that is left would end its process, and another take seconds to begin
    window.report.show_session(session)
    _settle(window, qtbot)
    return window.report


def _settle(window, qtbot):
    qtbot.waitUntil(lambda: not window.busy, timeout=60_000)


def _session(window):
    return next(s for s in window.document.logbook.sessions() if s.name == SMALL)


def test_it_is_previewed_in_the_kind_that_fits_and_in_any_other(window, report, qtbot):
    assert report._kind.itemText(0) == f"what fits: {PLANS[Kind.HEAD_TO_HEAD].words}"
    assert report._pages.count == 2 and "pages" in report._state.text()
    for kind in (Kind.LAMP, Kind.ROOM, Kind.CLAIMS):
        report.show_kind(kind)
        if kind is Kind.LAMP:
            qtbot.waitUntil(lambda: HOW_FAR.match(report._state.text()) is not None, timeout=30_000)
        _settle(window, qtbot)
        assert report._made.kind == kind and report._pages.count >= 1, report._state.text()
    report._lamps.setCurrentIndex(report._lamps.findData("Burdock"))
    _settle(window, qtbot)
    assert [report._lamps.itemText(i) for i in range(report._lamps.count())] == [
        "all of them",
        "Tansy",
        "Burdock",
        "Yarrow",
    ]
    assert report._lamps.currentData() == "Burdock"


def test_what_is_written_is_kept_and_stands_in_the_file(window, small_report, qtbot, tmp_path):
    small_report._decision.setFocus()
    small_report._decision.setPlainText("Yes, with quarter minus green.")
    assert _session(window).decision == "Yes, with quarter minus green."
    small_report._pages.setFocus()
    assert "Making the preview" in small_report._state.text()
    _settle(window, qtbot)
    for name in ("report.pdf", "report.html"):
        small_report.save_page(tmp_path / name)
        _settle(window, qtbot)
    assert "quarter minus green" in (tmp_path / "report.html").read_text(encoding="utf-8")
    assert len(PdfReader(tmp_path / "report.pdf").pages) >= 1
    small_report.save_table(tmp_path / "table.csv")
    _settle(window, qtbot)
    assert (tmp_path / "table.csv").read_text(encoding="utf-8").count("Burdock") >= 1


def test_sections_out_moved_and_with_a_sentence_by_keys(window, small_report, qtbot, tmp_path):
    sections = small_report._sections
    sections.list.setFocus()
    sections.list.setCurrentRow(1)
    qtbot.keyClick(sections.list, Qt.Key.Key_Space)
    _settle(window, qtbot)
    qtbot.keyClick(sections.list, Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier)
    _settle(window, qtbot)
    sections._sentence.setText("The petals decide.")
    sections._sentence.editingFinished.emit()
    _settle(window, qtbot)
    kept = kept_arrangement(window.document.logbook, _session(window), Kind.ROOM)
    assert "corrections" in kept.out and kept.order[0] == "corrections"
    assert kept.own == {"corrections": "The petals decide."}
    sections.list.setCurrentRow(0)
    qtbot.keyClick(sections.list, Qt.Key.Key_Space)
    _settle(window, qtbot)
    small_report.save_page(tmp_path / "report.html")
    _settle(window, qtbot)
    text = (tmp_path / "report.html").read_text(encoding="utf-8")
    assert "The petals decide." in text
    assert text.index(">Corrections<") < text.index(">Sources<")


def test_labels_show_what_does_not_fit_and_are_saved(window, report, qtbot, tmp_path, monkeypatch):
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / "labels.pdf"), ""))

    def choose(dialog):
        qtbot.waitUntil(lambda: not window.busy and dialog._picture.pixmap().width() > 0, timeout=60_000)
        told = dialog._words.text().splitlines()
        assert all("room: two-channel point source" in one for one in told[1:]), "its kind is the least"
        dialog._sizes.setCurrentIndex(dialog._sizes.findData("12mm"))
        qtbot.waitUntil(lambda: "the code has not" in dialog._words.text(), timeout=60_000)
        dialog._sizes.setCurrentIndex(dialog._sizes.findData("A4-3x8"))
        dialog._start.setValue(24)
        qtbot.waitUntil(lambda: not window.busy, timeout=60_000)
        return 1

    monkeypatch.setattr(LabelDialog, "exec", choose)
    report.press("L")
    _settle(window, qtbot)
    assert len(PdfReader(tmp_path / "labels.pdf").pages) == 2  # one on the last place, the rest on a new sheet


def test_a_picture_is_chosen_and_saved(window, small_report, qtbot, tmp_path, monkeypatch):
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / "chart.png"), ""))

    def choose(dialog):
        qtbot.waitUntil(lambda: not window.busy and dialog._charts.count() > 0, timeout=60_000)
        dialog._charts.setCurrentIndex(dialog._charts.count() - 1)
        dialog._sizes.setCurrentIndex(1)
        qtbot.waitUntil(lambda: not window.busy, timeout=60_000)
        return 1

    monkeypatch.setattr(PictureDialog, "exec", choose)
    small_report.press("P")
    _settle(window, qtbot)
    with Image.open(tmp_path / "chart.png") as image:
        assert image.size == (3840, 2160)


def test_sentences_are_on_the_clipboard(window, report, qtbot):
    report.press("S")
    _settle(window, qtbot)
    text = QGuiApplication.clipboard().text()
    assert "Burdock is a stop and a quarter brighter than Tansy" in text and "do not say" in text


def test_open_data_and_a_place_that_cannot_be_written(window, small_report, qtbot, tmp_path, monkeypatch):
    told = []
    monkeypatch.setattr(dialogs, "tell", lambda parent, title, message: told.append(message))
    target = [tmp_path / "open"]
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target[0]), ""))
    small_report.press("D")
    _settle(window, qtbot)
    assert (tmp_path / "open" / "session.json").exists()
    small_report.press("D")
    _settle(window, qtbot)
    assert "not empty" in told[-1]
    for path in (tmp_path / "none" / "x.pdf", Path("/proc/x.pdf")):
        small_report.save_page(path)
        _settle(window, qtbot)
        assert "Nothing was changed" in told[-1]


def test_escape_leaves_off_and_the_next_one_is_made(window, small_report, qtbot):
    small_report.show_kind(Kind.FULL)
    assert window.busy
    qtbot.keyClick(small_report, Qt.Key.Key_Escape)
    assert "Left off" in small_report._state.text()
    qtbot.waitUntil(lambda: not window.busy, timeout=10_000)
    small_report.show_kind(Kind.LAMP)
    _settle(window, qtbot)
    assert small_report._made.kind == Kind.LAMP


def test_an_empty_logbook_has_nothing_to_report(open_window, qtbot, tmp_path):
    Logbook.create(tmp_path / "fresh.evenbeam").close()
    window = open_window(tmp_path / "fresh.evenbeam")
    window.go(REPORT)
    _settle(window, qtbot)
    for key in ("Enter", "L", "S", "P", "X", "D"):
        window.report.press(key)
    assert "read something on the Bench first" in window.report._state.text()

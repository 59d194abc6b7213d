"""Camera in the window, by its keys: photographs, corners placed by hand, flicker by exposures, fades, what is kept."""

import cv2
import numpy as np
import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtTest import QTest

from even_beam.answers.camera.questions import Ask
from even_beam.app.stations.camera.points_view import Form
from even_beam.app.window import CAMERA
from even_beam.bench.observations import Observation, Photo
from even_beam.bench.records import Source
from even_beam.formats import NamedSpectrum
from even_beam.instruments import simulated_flicker
from even_beam.light import WAVELENGTH_NM, daylight
from tests.camera.photographed import scene, shot

FLASH = daylight(5600.0)
AT = scene(5, turned=False, small=0.6)
ENTER, ESCAPE, DOWN, UP, SPACE, RIGHT = (
    Qt.Key.Key_Return, Qt.Key.Key_Escape, Qt.Key.Key_Down, Qt.Key.Key_Up, Qt.Key.Key_Space, Qt.Key.Key_Right,
)  # fmt: skip


@pytest.fixture(scope="module")
def files(tmp_path_factory):
    folder = tmp_path_factory.mktemp("seen")
    shot(folder / "flash.tif", FLASH, FLASH, AT, 1)
    shot(folder / "warm.tif", daylight(4700.0) * 0.8, FLASH, AT, 2)
    shot(folder / "even.tif", FLASH * 0.9, FLASH, AT, 3)
    wave = simulated_flicker.waveform(simulated_flicker.DRIVERS["bicolour panel"], 0.3, 0.6, 20_000.0, 1)
    _table(folder / "sorrel.csv", np.arange(wave.light.size) / wave.rate_hz, wave.light)
    _table(folder / "down.csv", *simulated_flicker.fade(3.0, 400.0, levels=30))
    _table(folder / "up.csv", *simulated_flicker.fade(3.0, 400.0, up=True))
    (folder / "notes.tif").write_text("no picture")
    return folder


def _table(path, seconds, light):
    np.savetxt(path, np.stack([seconds, light], 1), "%.7g", ",", header="time s,light", comments="")


@pytest.fixture
def window(tmp_path, open_window, qtbot):
    opened = open_window(tmp_path / "seen.evenbeam", CAMERA)
    qtbot.waitUntil(lambda: not opened.busy, timeout=10_000)
    return opened


def take(window, qtbot, *paths):
    window.camera.open_paths(list(paths))
    qtbot.waitUntil(lambda: not window.busy, timeout=20_000)
    qtbot.wait(30)


def headline(window) -> str:
    camera = window.camera
    return " ".join(line.plain for line in camera._pages[camera._ask].lines)


def keep(window, hands, said) -> None:
    hands.press(window, "k")
    window.camera.line.edit.clear()
    hands.type(window, said)
    assert "Kept with" in window.said, window.camera.line._fault.text()


@pytest.fixture
def charted(window, qtbot, files):
    take(window, qtbot, files / "flash.tif", files / "warm.tif", files / "even.tif")
    return window


def test_it_says_what_it_wants_before_there_is_anything(window, hands):
    assert "Open a photograph" in headline(window)
    hands.press(window, "2")
    assert "Open a waveform" in headline(window)
    assert "seizures" in window.camera._notes.text()
    hands.press(window, "3")
    assert "Open a fade" in headline(window)
    assert not any(hint.key == "C" for hint in window.camera.hints())


def test_photographs_against_the_first_of_them(charted, hands):
    camera = charted.camera
    assert headline(charted).startswith("warm.tif: once greys agree")
    assert "yellower" in headline(charted)
    assert camera.charts.files.item(0).text() == "flash.tif · benchmark"
    hands.press(charted, DOWN)
    assert headline(charted).startswith("even.tif") and "no cast" in headline(charted)
    assert [row[0] for row in camera.charts.table.shown()[1:]] == ["even.tif", "warm.tif"]
    hands.press(charted, UP, UP)
    assert "flash.tif is the benchmark" in headline(charted)
    hands.press(charted, DOWN, "l")
    assert camera._benchmark.name == "warm.tif"
    hands.press(charted, DOWN)
    assert "bluer" in headline(charted)


def test_as_shot_and_balanced_patches(charted, hands):
    camera = charted.camera
    balanced = camera._pages[Ask.CHARTS].pairs
    hands.press(charted, "b")
    shown = camera._pages[Ask.CHARTS].pairs
    assert max(p.delta_e for p in shown) > max(p.delta_e for p in balanced)
    assert "as shot" in camera.charts._seen.text()
    assert "as shot" in camera.charts._title.text()


def test_corners_are_placed_by_the_keys(charted, hands, qtbot):
    camera = charted.camera
    view = camera.charts.photo
    before = list(view.points)
    hands.press(charted, "c")
    assert view.placing and "Corner 1 of 4" in view.accessibleName()
    hands.press(charted, RIGHT, RIGHT)
    QTest.keyClick(view, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    assert view.points[0] == (before[0][0] + 2.0, before[0][1] + 10.0)
    hands.press(charted, SPACE)
    assert "Corner 2 of 4" in view.accessibleName()
    hands.press(charted, ESCAPE)
    assert view.points == before and not view.placing
    hands.press(charted, "c", RIGHT, ENTER)
    qtbot.waitUntil(lambda: not charted.busy, timeout=10_000)
    reading = next(s for s in camera._shots if s.name == "warm.tif").reading
    assert not reading.found and reading.corners[0][0] == pytest.approx(before[0][0] + 1.0)
    assert headline(charted).startswith("warm.tif: once greys agree")


def test_corners_are_dragged_with_the_mouse(charted, qtbot):
    view = charted.camera.charts.photo
    at = view._on_screen(view.points[2])
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=at.toPoint())
    assert view.placing
    QTest.mouseMove(view, (at + QPointF(8.0, 6.0)).toPoint())
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=(at + QPointF(8.0, 6.0)).toPoint())
    assert view._at == 2


def test_one_part_of_all_photographs_side_by_side(charted, hands, qtbot):
    camera = charted.camera
    hands.press(charted, "p")
    view = camera.charts.photo
    assert view.placing and "Corner of the part 1 of 2" in view.accessibleName()
    hands.press(charted, ESCAPE)
    assert len(view.points) == 4, "the outline is back"
    hands.press(charted, "p", ENTER)
    qtbot.waitUntil(lambda: not charted.busy, timeout=10_000)
    shown = camera.charts.parts
    assert shown.isVisible() and [words.split(" · ")[0] for _, words in shown._parts] == [
        "flash.tif", "warm.tif", "even.tif",
    ]  # fmt: skip
    balanced = float(shown._parts[1][1].split(" · ")[1])
    hands.press(charted, "b")
    qtbot.waitUntil(lambda: not charted.busy, timeout=10_000)
    as_shot = float(shown._parts[1][1].split(" · ")[1])
    assert as_shot > balanced, "the cast counts as shot"
    assert float(shown._parts[2][1].split(" · ")[1]) < 1.5, "the same light at another level is the same"
    view.form = Form.PART
    view.placed.emit([(0.0, 0.0), (2.0, 2.0)])
    qtbot.waitUntil(lambda: not charted.busy, timeout=10_000)
    assert "What was shown before still is" in charted.said


@pytest.fixture(scope="module")
def wall(tmp_path_factory):
    """Half a stop from the left to the right edge, and a shadow of two edges 40 pixels apart, each of 12 pixels."""
    height, width = 300, 600
    x = np.arange(width, dtype=float)
    falling = 2.0 ** (-0.5 * x / width)
    for at in (380.0, 460.0):
        falling = falling * (1.0 - 0.5 / (1.0 + np.exp(-(x - at) / 2.7)))
    linear = 0.8 * np.repeat(falling[None, :], height, axis=0)
    srgb = np.where(linear <= 0.0031308, 12.92 * linear, 1.055 * linear ** (1.0 / 2.4) - 0.055)
    path = tmp_path_factory.mktemp("wall") / "wall.png"
    assert cv2.imwrite(str(path), np.repeat(np.round(65535.0 * srgb)[..., None], 3, axis=2).astype(np.uint16))
    return path


def test_a_wall_and_the_edge_across_it(window, hands, qtbot, wall):
    hands.press(window, "4")
    assert "plain wall" in headline(window)
    take(window, qtbot, wall)
    assert "2.5 stops below it" in headline(window) and "left" in headline(window)
    page = window.camera._pages[Ask.SURFACES]
    assert [words for _, words in page.bands] == ["0.5", "1", "1.5", "2", "2.5"]
    hands.press(window, "e")
    view = window.camera.surfaces.photo
    assert view.placing and "End 1 of 2" in view.accessibleName()
    view._points = [(330.0, 150.0), (520.0, 150.0)]
    hands.press(window, ENTER)
    qtbot.waitUntil(lambda: not window.busy, timeout=10_000)
    assert "in 2 steps" in headline(window) and "No colour fringe" in headline(window)
    assert window.camera.surfaces._chart.isVisible()
    window.document.logbook.save(Source("l", "Tansy"))
    hands.press(window, "k")
    window.camera.line.edit.clear()
    hands.type(window, "Tansy@level=100")
    assert "Kept: shadow edge: The light falls" in window.said
    session = window.document.bench().session.id
    (seen,) = window.document.logbook.of_session(Observation, session)
    assert seen.source_ids == ("l",) and len(window.document.logbook.of_session(Photo, session)) == 1
    hands.press(window, "e")
    view._points = [(10.0, 150.0), (40.0, 150.0)]
    hands.press(window, ENTER)
    qtbot.waitUntil(lambda: not window.busy, timeout=10_000)
    assert "same at both ends" in window.said


def test_corners_that_no_chart_has_are_said_and_can_be_mended(charted, hands, qtbot):
    camera = charted.camera
    camera.charts.photo.placed.emit([(10, 10), (20, 300), (300, 300), (300, 10)])
    qtbot.waitUntil(lambda: not charted.busy, timeout=10_000)
    assert "clockwise" in charted.said
    assert "no chart found: C" in camera.charts.files.item(1).text()
    hands.press(charted, "c", ESCAPE)
    camera.charts.photo.placed.emit(list(AT.corners))
    qtbot.waitUntil(lambda: not charted.busy, timeout=10_000)
    assert "no chart" not in camera.charts.files.item(1).text()


def test_a_wrong_file_is_said_and_keeps_the_rest(charted, qtbot, files):
    before = headline(charted)
    take(charted, qtbot, files / "notes.tif")
    assert "notes.tif cannot be read" in charted.said
    assert headline(charted) == before
    assert len(charted.camera._shots) == 3


def test_photographs_are_left_out_and_repeated(charted, hands):
    hands.press(charted, "r")
    assert "±" in headline(charted)
    hands.press(charted, "r", Qt.Key.Key_Delete)
    assert [s.name for s in charted.camera._shots] == ["flash.tif", "even.tif"]
    hands.press(charted, UP, Qt.Key.Key_Delete)
    assert charted.camera._benchmark.name == "even.tif"


def test_flicker_by_exposures(window, hands, qtbot, files):
    hands.press(window, "2")
    take(window, qtbot, files / "sorrel.csv")
    assert "620" in headline(window) and " show bands" in headline(window)
    page, camera = window.camera.waveform, window.camera
    grid = page.grid
    assert grid.rowCount() == 6 and "bands" in grid.item(*_place(grid)).text()
    words = page._strip_words.text()
    hands.press(window, Qt.Key.Key_Home, *[UP] * 6, RIGHT)
    assert page._strip_words.text() != words and page._strip_words.text().startswith("24 fps, 1/48 s")
    assert "Simulated frames: 24 fps" in page.strip.accessibleName()
    assert len(page.strip._frames) == 8
    hands.press(window, "x")
    camera.line.edit.clear()
    hands.type(window, "25 fps soon")
    assert "no camera" in camera.line._fault.text()
    camera.line.edit.clear()
    hands.type(window, "23.976 fps 172.8° 8ms")
    qtbot.waitUntil(lambda: not window.busy, timeout=10_000)
    row, column = _place(grid)
    assert grid.verticalHeaderItem(row).text() == "23.976 fps" and grid.item(row, column).text()
    assert headline(window).removeprefix("sorrel: ").startswith("23.976 fps, "), "one's own camera is answered first"


def _place(grid) -> tuple[int, int]:
    return grid.currentRow(), grid.currentColumn()


def test_a_fade_with_what_was_asked(window, hands, qtbot, files):
    hands.press(window, "3")
    take(window, qtbot, files / "down.csv")
    assert "down in" in headline(window) and "in 30 steps" in headline(window)
    hands.press(window, "x")
    window.camera.line.edit.clear()
    hands.type(window, "nothing")
    assert window.camera.line.isVisible()
    window.camera.line.edit.clear()
    hands.type(window, "3.5 s")
    qtbot.waitUntil(lambda: not window.busy, timeout=10_000)
    assert "asked were 3.5 s" in headline(window)
    take(window, qtbot, files / "up.csv")
    assert "one run backwards" in headline(window)
    keep(window, hands, "@cct=5600")


def test_what_was_seen_is_kept_with_the_lamp_and_comes_again(charted, hands, qtbot, files):
    window = charted
    keep(window, hands, "@cct=5600")
    desk = window.document.desk
    (reading,) = desk.counted
    assert reading.value("chart_balanced") == pytest.approx(window.camera._pages[Ask.CHARTS].difference.mean_balanced)
    assert {photo.name for photo in desk.photos()} == {"warm.tif", "flash.tif"}
    hands.press(window, "2")
    take(window, qtbot, files / "sorrel.csv")
    window.document.logbook.save(Source("sorrel", "Sorrel"))
    desk.reload_kit()
    keep(window, hands, "Sorrel@cct=5600;level=30;distance=2 m")
    kept = desk.counted[-1]
    assert (kept.source_id, kept.terms.level_pct, kept.terms.distance_m) == ("sorrel", 30.0, 2.0)
    assert desk.counted[-1].value("flicker_hz") == pytest.approx(620.0, abs=0.01)
    assert len(window.document.logbook.traces(desk.counted[-1].reading.id)[0].values) == 12_000
    hands.press(window, "v")
    window.camera.line.edit.clear()
    hands.type(window, "none seen")
    assert "lacks a part" in window.camera.line._fault.text()
    window.camera.line.edit.clear()
    hands.type(window, "24 fps, 1/48: none seen")
    (seen,) = desk.observations()
    assert seen.sentence == "flicker on camera: none seen, 24 fps, 1/48"
    window.camera.show_document(window.document)
    qtbot.waitUntil(lambda: not window.busy, timeout=20_000)
    assert sorted(s.name for s in window.camera._shots) == ["flash.tif", "warm.tif"]
    assert window.camera._benchmark.name == "flash.tif"
    assert window.camera._pages[Ask.FLICKER].found.hz == pytest.approx(620.0, abs=0.01)


def test_beside_the_standard_camera_and_the_cameras_own_white(charted, hands):
    """By spectra that were read of lamp and benchmark; the camera's own white is an observation, no reading."""
    window = charted
    desk = window.document.bench()
    for source, light in (("warm", daylight(4700.0)), ("flash", FLASH)):
        window.document.logbook.save(Source(source, source.title()))
        desk.reload_kit()
        desk.free_source = source
        desk.take_spectrum(NamedSpectrum(source, WAVELENGTH_NM, light, absolute=True))
    hands.press(window, "s")
    window.camera.line.edit.clear()
    hands.type(window, "Warm, Nobody")
    assert "nothing is called “Nobody”" in window.camera.line._fault.text()
    window.camera.line.edit.clear()
    hands.type(window, "warm, flash")
    assert "By their spectra the standard camera has them" in headline(window)
    hands.press(window, "w")
    window.camera.line.edit.clear()
    hands.type(window, "warmish")
    assert "is no white" in window.camera.line._fault.text()
    window.camera.line.edit.clear()
    hands.type(window, "5400 K, tint +3")
    assert desk.observations()[-1].sentence == "white by the camera: 5400 K, tint +3, its own estimate"
    assert all(m.value("cct") is None or m.computed is not None for m in desk.counted)


def test_nothing_to_keep_and_the_answer_on_the_clipboard(charted, hands):
    hands.press(charted, "2", "k")
    assert "nothing to keep" in charted.said
    hands.press(charted, "1")
    charted.camera.press("Ctrl C")
    text = QGuiApplication.clipboard().text()
    assert "warm.tif: once greys agree" in text and "photograph\tbalanced" in text


def test_files_that_are_dropped_answer_the_question_that_is_asked(window, qtbot, files):
    window.camera.ask(Ask.FLICKER)
    take(window, qtbot, files / "up.csv")
    assert window.camera._pages[Ask.FLICKER].found is not None


def test_what_was_kept_is_taken_back_and_a_wrong_lamp_is_said(charted, hands):
    """The lamp that the photograph is named after is offered; Ctrl Z takes the reading back."""
    window = charted
    desk = window.document.bench()
    window.document.logbook.save(Source("w", "Warm"))
    desk.reload_kit()
    hands.press(window, "k")
    assert window.camera.line.edit.text().startswith("Warm@")
    window.camera.line.edit.clear()
    hands.type(window, "Nobody@cct=5600")
    assert "there is no lamp “Nobody”" in window.camera.line._fault.text()
    assert not desk.measured
    window.camera.line.edit.clear()
    hands.type(window, "Warm@cct=4700;level=100")
    assert "Warm" in window.said and desk.counted[-1].terms.cct_k == 4700.0
    assert window.camera.undo() is not None
    window.camera.undo()
    window.camera.undo()
    assert not desk.counted


def test_what_is_typed_counts_for_what_was_kept(open_window, demo, qtbot, hands):
    """The waveform and the fade of the demo, whose files are long gone."""
    window = open_window(demo, CAMERA)
    qtbot.waitUntil(lambda: len(window.camera._shots) > 2, timeout=20_000)
    hands.press(window, "2", "x")
    window.camera.line.edit.clear()
    hands.type(window, "48 fps 1/96 8ms")
    qtbot.waitUntil(lambda: not window.busy, timeout=10_000)
    assert "48 fps" in window.camera._pages[Ask.FLICKER].rows
    hands.press(window, "3", "x")
    window.camera.line.edit.clear()
    hands.type(window, "five")
    assert "is no time" in window.camera.line._fault.text()
    window.camera.line.edit.clear()
    hands.type(window, "4,5 s")
    assert "asked were 4.5 s" in headline(window)
    other = open_window(demo.with_name("other.evenbeam"), CAMERA)
    qtbot.waitUntil(lambda: not other.busy, timeout=10_000)
    assert "Open a photograph" in headline(other)


def test_a_film_by_its_frames(window, hands, qtbot, tmp_path):
    """A level that goes up and down by a tenth from frame to frame: 100 (max - min) / (max + min) is 10 %."""
    frames = tmp_path / "frames"
    frames.mkdir()
    for n in range(30):
        light = 0.4 * (1.1 if n % 2 else 0.9)
        srgb = 1.055 * light ** (1.0 / 2.4) - 0.055
        cv2.imwrite(str(frames / f"{n:03d}.png"), np.full((40, 30, 3), round(65535.0 * srgb), np.uint16))
    hands.press(window, "2")
    take(window, qtbot, frames)
    assert "how many frames a second" in window.said
    hands.press(window, "x")
    hands.type(window, "25 fps 1/50")
    take(window, qtbot, frames)
    assert "30 frames: the level moves by 10.0 %" in headline(window) and "beats" in headline(window)
    assert window.camera.waveform._charts["cycles"].isVisible()

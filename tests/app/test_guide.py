"""The user guide and the key table: no dead link, no key that is no longer there, and a word finds a key."""

import itertools
import re
from importlib.resources import files

import pytest
from PyQt6.QtCore import QUrl

from even_beam.app import keys
from even_beam.app.guide_dialog import FIRST, GuideDialog
from even_beam.app.guide_pages import page, view_file
from even_beam.app.keys_dialog import GROUPS, KeysDialog
from even_beam.app.stations.bench.acts import HINTS
from even_beam.demo.guide_charts import CHARTS

PAGES = sorted(one.name for one in files("even_beam.guide").iterdir() if one.name.endswith(".md"))
LINK = re.compile(r"(?<!!)\[[^]]*\]\(([^)]+)\)")
PICTURE = re.compile(r"!\[([^]]*)\]\(([^)]+)\)")
KEY = re.compile(r"\*\*([^*]{1,14})\*\*")

KEYS = (
    keys.EVERYWHERE, keys.KIT, keys.PLAN, keys.COMPARE, keys.MATCH, keys.REPORT, keys.SPECTRUM, keys.CAMERA,
    HINTS,
)  # fmt: skip
EVERY = {hint.key for group in KEYS for hint in group}
SPELT_OUT = {f"Ctrl {n}" for n in range(1, 9)} | {"Ctrl N", "Ctrl O", "Ctrl S"} | set("12345") | {"PgDn", "F1"}
METRICS = {"Illuminance", "Stops", "Duv", "Ra", "Rf and Rg", "SSI", "TLCI", "±"}


@pytest.mark.parametrize("name", PAGES)
def test_links_lead_somewhere_and_keys_are_there(name):
    text = page(name)
    for link in LINK.findall(text):
        assert link in PAGES, f"{name} leads to {link}"
    for words, link in PICTURE.findall(text):
        assert words, f"{name} has a picture without words for who cannot see it"
        chart = link.removeprefix("chart:")
        assert chart in CHARTS if chart != link else view_file(link).is_file(), f"{name} shows {link}"
    for key in KEY.findall(text):
        known = key in EVERY or key in SPELT_OUT or key in METRICS or key == "Colour temperature"
        assert known, f"{name} speaks of the key {key}"
    assert text.startswith("# ")


def test_every_page_is_reached_from_the_first():
    assert sorted([*LINK.findall(page(FIRST)), FIRST]) == PAGES
    assert len(PAGES) == 16


def test_the_guide_follows_its_links(qtbot):
    dialog = GuideDialog(None)
    qtbot.addWidget(dialog)
    assert "User guide" in dialog.pages.toPlainText()
    dialog.pages.anchorClicked.emit(QUrl("walk.md"))
    assert "as from 30 cm behind the front" in dialog.pages.toPlainText()
    dialog.pages.anchorClicked.emit(QUrl("https://example.org/walk.md"))
    assert "as from 30 cm behind the front" in dialog.pages.toPlainText(), "nothing is fetched"


def test_charts_are_drawn_beside_the_text_and_views_stand_in_it(qtbot):
    dialog = GuideDialog(None, "figures.md")
    qtbot.addWidget(dialog)
    dialog.show()
    assert "Stops" in dialog.pages.toPlainText()  # the text does not wait for its charts
    qtbot.waitUntil(lambda: not dialog.pages.busy, timeout=20_000)
    image = dialog.pages.loadResource(2, QUrl("chart:hues"))
    assert image.width() == round(660 * image.devicePixelRatio())
    assert len({image.pixelColor(x, image.height() // 2).name() for x in range(0, image.width(), 3)}) > 3
    assert not dialog.pages.loadResource(2, QUrl("bench.png")).isNull()
    assert dialog.pages.loadResource(2, QUrl("https://example.org/../nothing.png")).isNull(), "nothing is fetched"
    dialog.close()


def test_the_guide_says_of_its_charts_what_they_show():
    """A square law loses two stops at half, and the marks of a small source lie on the inverse square."""
    dimming = CHARTS["dimming"]()
    assert "−13.29 stops" in dimming.summary  # 2 log2(1/100)
    points = [(mark.x[0], mark.y[0]) for mark in CHARTS["walk"]().marks if hasattr(mark, "keys") and mark.keys]
    slopes = [(y2 - y1) / (x2 - x1) for (x1, y1), (x2, y2) in itertools.pairwise(points)]
    assert slopes == pytest.approx([-2.0] * 3, abs=0.02)
    assert sorted(CHARTS) == sorted({link[6:] for n in PAGES for _, link in PICTURE.findall(page(n)) if ":" in link})


@pytest.mark.parametrize("station", [name for name, _ in GROUPS])
def test_the_station_that_asks_comes_first(qtbot, station):
    dialog = KeysDialog(None, station)
    qtbot.addWidget(dialog)
    hints = dict(GROUPS)[station]
    assert dialog.shown[0].startswith(f"{hints[0].key} {hints[0].label}".casefold())
    assert len(dialog.shown) == sum(len(own) for _, own in GROUPS)


def test_a_word_finds_a_key(qtbot):
    dialog = KeysDialog(None, "Bench")
    qtbot.addWidget(dialog)
    dialog.show_only("weather forecast")
    assert dialog.shown == []
    dialog.show_only("published sentences")
    assert [said.split()[0] for said in dialog.shown] == ["ctrl"]
    dialog.show_only("")
    assert len(dialog.shown) > 60

"""Words in a chart: none upon another, a name a lamp, whatever the logbook holds."""

from itertools import combinations

import pytest
from matplotlib import rc_context
from matplotlib.backends.backend_agg import FigureCanvasAgg
from matplotlib.figure import Figure

from even_beam.collection.collection import Collection
from even_beam.figures.axes import heading
from even_beam.figures.chart import Axis, Chart, Line, Points
from even_beam.figures.drawing import SETTINGS, draw, register_fonts
from even_beam.figures.ink import PAPER
from even_beam.handing_over.material import Material
from even_beam.handing_over.pictures import charts_of
from even_beam.logbook.store import Logbook
from even_beam.shell.settings import Settings


def words_of(chart, width_mm=87.0, height_mm=46.0):
    """Every word of a chart as it is drawn on paper, with its box."""
    register_fonts()
    with rc_context(SETTINGS):
        figure = Figure(figsize=(width_mm / 25.4, height_mm / 25.4))
        canvas = FigureCanvasAgg(figure)
        axes = draw(figure, chart, PAPER, titled=False)
        canvas.draw()
        drawn = canvas.get_renderer()
        legend = axes.get_legend()
        shown = [text for text in axes.texts if text.get_visible()]
        texts = [*shown, *(legend.get_texts() if legend else ())]
        ticks = [label for axis in (axes.xaxis, axes.yaxis) for label in axis.get_ticklabels()]
        axis = axes.get_window_extent(drawn)
        boxes = {"texts": texts, "ticks": [label for label in ticks if label.get_text()]}
        return {
            kind: [(text.get_text(), text.get_window_extent(drawn)) for text in own] for kind, own in boxes.items()
        }, axis


def over(boxes):
    """Pairs whose boxes share more than a hair."""
    found = []
    for (one, a), (other, b) in combinations(boxes, 2):
        across = min(a.x1, b.x1) - max(a.x0, b.x0)
        along = min(a.y1, b.y1) - max(a.y0, b.y0)
        if across > 0.5 and along > 0.5:
            found.append((one, other))
    return found


@pytest.fixture
def demo_charts(demo):
    book = Logbook.open_to_read(demo)
    material = Material(Collection(book), Settings(), None, ("Tansy", "Burdock", "Sorrel", "Comfrey", "Teasel"))
    yield charts_of(material)
    book.close()


def test_no_word_of_the_demo_stands_upon_another(demo_charts):
    assert len(demo_charts) > 12
    upon = {}
    for name, chart in demo_charts.items():
        boxes, _ = words_of(chart)
        if found := over(boxes["texts"]) + over(boxes["ticks"]):
            upon[name] = found
        said = {text.strip() for text, _ in boxes["texts"]}
        assert len(chart.legend) < 2 or {name for _, name in chart.legend} <= said, (name, said)
    assert not upon


def lamps(levels, *, lines=True):
    names = [f"Lamp {n}" for n in range(len(levels))]
    marks = []
    for n, level in enumerate(levels):
        marks += [Line((0.0, 1.0), (0.0, level), n)] if lines else []
        marks += [Points((0.0, 1.0), (0.0, level), n, label=names[n])]
    axis = Axis("light", 0.0, 1.0, ((0.0, "0"), (1.0, "1")))
    return Chart("several", axis, axis, tuple(marks), "", tuple(enumerate(names)))


@pytest.mark.parametrize(
    "levels", [(0.1, 0.5, 0.9), (0.5, 0.5, 0.51), tuple(n / 8.0 for n in range(8)), (0.5,) * 8], ids=str
)
@pytest.mark.parametrize("lines", [True, False])
def test_each_lamp_is_named_once_and_beside_its_line_where_there_is_room(levels, lines):
    boxes, axes = words_of(lamps(levels, lines=lines))
    named = [text for text, _ in boxes["texts"]]
    assert sorted(named) == [f"Lamp {n}" for n in range(len(levels))]
    assert not over(boxes["texts"])
    beside = lines and levels != (0.5,) * 8
    for text, box in boxes["texts"]:
        assert (box.x0 >= axes.x1 - 1.0) if beside else (box.y0 >= axes.y1 - 1.0), text


def test_an_axis_is_called_as_the_quantity_is():
    assert [heading(name) for name in ("ra", "r9", "duv", "change")] == ["Ra", "R9", "Duv", "change"]

"""Charts as SVG for reports: text as text, and a title a mark, which a reader's pointer shows."""

import io
from collections.abc import Mapping, Sequence
from xml.etree import ElementTree

from even_beam.figures.chart import Chart, Points, Sticks
from even_beam.figures.drawing import SETTINGS, draw, mark_id, register_fonts
from even_beam.figures.ink import PAPER

_SVG = "http://www.w3.org/2000/svg"
_XLINK = "http://www.w3.org/1999/xlink"


def svg(
    chart: Chart, width_mm: float = 170.0, height_mm: float = 70.0, readings: Mapping[str, str] | None = None
) -> str:
    """The chart as an SVG element without its title, which stands beside it; its summary is there for screen readers.

    A mark says its hint, and by `readings` what its reading is called in the report.
    """
    from matplotlib import rc_context
    from matplotlib.backends.backend_agg import FigureCanvasAgg
    from matplotlib.figure import Figure

    register_fonts()
    with rc_context(SETTINGS):
        figure = Figure(figsize=(width_mm / 25.4, height_mm / 25.4))
        FigureCanvasAgg(figure)
        figure.patch.set_visible(False)
        draw(figure, chart, PAPER, titled=False)
        drawn = io.BytesIO()
        figure.savefig(drawn, format="svg", metadata={"Date": None, "Creator": None, "Format": None, "Type": None})
    return _with_titles(drawn.getvalue(), chart, readings or {})


def _with_titles(drawing: bytes, chart: Chart, readings: Mapping[str, str]) -> str:
    ElementTree.register_namespace("", _SVG)
    ElementTree.register_namespace("xlink", _XLINK)
    root = ElementTree.fromstring(drawing)  # our own drawing, of no one else's text but titles
    for metadata in root.findall(f"{{{_SVG}}}metadata"):
        root.remove(metadata)
    groups = {group.get("id"): group for group in root.iter(f"{{{_SVG}}}g")}
    for place, mark in enumerate(chart.marks):
        group = groups.get(mark_id(place))
        if group is None or not isinstance(mark, Points | Sticks):
            continue
        marks = list(group.iter(f"{{{_SVG}}}use"))
        words = _words(mark, readings)
        if len(marks) == len(words):  # one beyond the axes is not drawn: then nobody knows which is which
            for one, text in zip(marks, words, strict=True):
                if text:
                    ElementTree.SubElement(one, f"{{{_SVG}}}title").text = text
    _flatten(root)
    title = ElementTree.Element(f"{{{_SVG}}}title")
    title.text = chart.summary
    root.insert(0, title)
    return ElementTree.tostring(root, encoding="unicode")


def _flatten(parent: ElementTree.Element) -> None:
    """Take out what only names groups, and turns by nothing: a report is laid out in less time without them."""
    children: list[ElementTree.Element] = []
    for child in list(parent):
        _flatten(child)
        if child.tag == f"{{{_SVG}}}g" and set(child.keys()) <= {"id"}:
            children += list(child)
        else:
            if child.get("transform", "").startswith("rotate(-0 "):
                del child.attrib["transform"]
            children.append(child)
    parent[:] = children


def _words(mark: Points | Sticks, readings: Mapping[str, str]) -> Sequence[str]:
    """What each mark of a kind says."""
    count = len(mark.x)
    hints = list(mark.hints) if len(mark.hints) == count else [""] * count
    keys = list(mark.keys) if isinstance(mark, Points) and len(mark.keys) == count else [""] * count
    return [", ".join(filter(None, (hint, readings.get(key, "")))) for hint, key in zip(hints, keys, strict=True)]

"""A report as HTML, which opens offline, and as tagged PDF."""

import base64
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any

from jinja2 import Environment, PackageLoader, StrictUndefined
from markupsafe import Markup

from even_beam.bench.planning import cautions
from even_beam.figures.chart import Chart
from even_beam.figures.patches import PatchSet
from even_beam.figures.print_renderer import svg
from even_beam.figures.strip import Strip, ground_of
from even_beam.files import writing
from even_beam.fonts import font_data
from even_beam.paper.document import Document, Section, Table, spans
from even_beam.paper.errors import ReportError

PAGE_MM = 178.0
"""The width of what is printed."""
BESIDE = 2
"""So many charts stand side by side."""


def render(template: str, **values: Any) -> str:
    """A template with the shipped fonts inside it, everything escaped."""
    environment = Environment(
        loader=PackageLoader("even_beam.paper"),
        autoescape=True,
        undefined=StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
    )
    fonts = {name: base64.b64encode(font_data(f"B612-{name}.otf")).decode() for name in ("Regular", "Bold")}
    return environment.get_template(template).render(fonts=fonts, **values)


def html(document: Document, scale: float = 1.0) -> str:
    """The report as one self-contained HTML text; `scale` makes its printed type smaller."""
    numbers = document.numbers
    names = {line.id: f"reading {line.number}, {line.terms}" for line in document.readings}
    return render(
        "document.html",
        d=document,
        size_pt=(DENSE_PT if document.dense else SIZE_PT) * scale,
        widths=lambda table: column_widths(table) if len(table.rows) > MOST_MEASURED else (),
        is_whole=is_whole,
        of_words=of_words,
        is_words=is_words,
        drawn=lambda section: _drawn(section, names, (33.0 if document.dense else 46.0) * scale),
        ground_of=ground_of,
        beside=beside,
        parted=lambda title: title.partition(" \N{MIDDLE DOT} "),
        spans=lambda readings: spans(numbers, readings),
        caution=cautions.NO_ASSESSMENT,
    )


SIZE_PT, DENSE_PT = 7.6, 9.0
SCALES = (0.88, 0.78, 0.7)
"""A page that overflows is set smaller, down to 6.3 pt; what does not fit then goes on overleaf."""


MOST_MEASURED = 40
"""Of longer tables the widths are given, not measured: that takes too long."""


def is_whole(section: Section) -> bool:
    """Whether a section is so small that it stands on one page."""
    return sum(len(table.rows) for table in section.tables) <= MOST_WHOLE and len(section.charts) <= BESIDE


MOST_WHOLE = 14


def beside(sections: Sequence[Section]) -> list[list[Section]]:
    """Sections in rows: two narrow ones that follow each other stand side by side, all others alone."""
    rows: list[list[Section]] = []
    for section in sections:
        if section.narrow and rows and rows[-1][-1].narrow and len(rows[-1]) == 1:
            rows[-1].append(section)
        else:
            rows.append([section])
    return rows


PAGE_CHARACTERS = 112.0
"""So many characters of a table's type fit on a line."""
WORDS = 18
"""A cell longer than this may be broken into lines; shorter ones are figures and are not."""


def column_widths(table: Table) -> tuple[float, ...]:
    """The share of each column in percent: figures have the room they need, words share the rest.

    A table whose widths are given need not be measured before it is laid out.
    """
    texts = list(zip(*([cell.text for cell in row] for row in table.rows), strict=True))
    needed = [
        1.8 + max(len(text) for text in (*column, *head.split()) if len(text) <= WORDS or text in head)
        for column, head in zip(texts, table.columns, strict=True)
    ]
    wanted = [max(map(len, column), default=0) + 1.8 for column in texts]
    wide = [place for place, width in enumerate(wanted) if width > WORDS + 1.8]
    if table.readings:  # the numbers of readings stand in the first column
        needed[0] += 6.0
        wanted[0] += 10.0
    rest = max(PAGE_CHARACTERS - sum(needed[place] for place in range(len(needed)) if place not in wide), 0.0)
    share = sum(wanted[place] for place in wide)
    widths = [
        max(rest * wanted[place] / share, 12.0) if place in wide else needed[place] for place in range(len(needed))
    ]
    return tuple(100.0 * width / sum(widths) for width in widths)


def of_words(table: Table) -> tuple[bool, ...]:
    """Which columns hold words, which stand to the left; figures stand to the right."""
    if table.set_left:
        return (True,) * len(table.columns)
    columns = zip(*([cell.text for cell in row] for row in table.rows), strict=True)
    return tuple(2 * sum(map(is_words, column)) > len(table.rows) for column in columns)


def is_words(text: str) -> bool:
    """Whether a cell is no figure: it may be broken into lines."""
    return bool(text) and (len(text) > WORDS or (text[0].isalpha() and not text.startswith("f/")))


def _drawn(section: Section, names: Mapping[str, str], height_mm: float) -> list[list[dict[str, Any]]]:
    """The pictures of a section in rows; those that hold rows of lamps are as high as these need, strips are tables."""
    shown = [chart for chart in section.charts if not chart.empty]
    rows = []
    for start in range(0, len(shown), BESIDE):
        row = shown[start : start + BESIDE]
        room = PAGE_MM / 2.0 if section.narrow else PAGE_MM
        width = room / max(len(row), 1) - 3.0 * (len(row) > 1 or section.narrow)
        ranked = isinstance(row[0], Chart) and row[0].rows > 0
        wide = width if len(row) > 1 or ranked else min(width, 120.0)
        rows.append([_picture(chart, wide, height_mm, names) for chart in row])
    return rows


def _picture(
    picture: Chart | Strip | PatchSet, width_mm: float, height_mm: float, names: Mapping[str, str]
) -> dict[str, Any]:
    """What the template needs of a picture: strips and patches are set as text, all else is drawn."""
    found: dict[str, Any] = dict.fromkeys(("svg", "strip", "patches")) | {"title": picture.title, "width": width_mm}
    match picture:
        case Strip():
            return found | {"strip": picture, "summary": picture.note}
        case PatchSet():
            return found | {"patches": picture, "summary": picture.words}
        case Chart():
            drawn = Markup(svg(picture, width_mm, max(height_mm, 4.6 * picture.rows + 14.0), names))
            return found | {"svg": drawn, "summary": picture.summary}


def write(document: Document, path: Path, *, over_others: bool = False) -> None:
    """The report as HTML or, by the file's suffix, PDF; whole or not at all. Raises `ReportError` and `OutputError`."""
    made = pdf(document) if path.suffix.lower() == ".pdf" else html(document).encode("utf-8")
    writing.write(path, made, over_others=over_others)


def pdf(document: Document) -> bytes:
    """The report as tagged PDF (PDF/UA-1, ISO 14289-1); a dense one as small as it must be for a page a chapter."""
    laid_out = _laid_out(html(document))
    allowed = max(1, sum(bool(chapter.title) for chapter in document.chapters))
    for scale in SCALES if document.dense else ():
        if _pages_before_appendix(laid_out) <= allowed:
            break
        laid_out = _laid_out(html(document, scale))
    return _tagged(laid_out)


def _pages_before_appendix(laid_out: Any) -> int:
    return next((n for n, one in enumerate(laid_out.pages) if APPENDIX in one.anchors), len(laid_out.pages))


APPENDIX = "every-reading"
"""The anchor of the appendix."""


def pdf_of(text: str) -> bytes:
    """The PDF itself. Raises `ReportError` for a text that reaches outside itself."""
    return _tagged(_laid_out(text))


def _laid_out(text: str) -> Any:
    from weasyprint import HTML  # heavy: only when a PDF is asked for
    from weasyprint.urls import URLFetcher

    outside: list[str] = []

    class OnlyWhatIsInside(URLFetcher):  # type: ignore[misc]
        """A report never reaches for anything outside itself."""

        def fetch(self, url: str, headers: object = None) -> Any:
            if not url.startswith("data:"):
                outside.append(url)
                raise ValueError(url)  # the library leaves a picture out then, and goes on
            return super().fetch(url, headers)

    laid_out = HTML(string=text, url_fetcher=OnlyWhatIsInside()).render(pdf_variant=TAGGED)
    if outside:
        raise ReportError(f"the report refers to {outside[0]}; nothing outside it is fetched")
    return laid_out


TAGGED = "pdf/ua-1"


def _tagged(laid_out: Any) -> bytes:
    return bytes(laid_out.write_pdf(pdf_variant=TAGGED))

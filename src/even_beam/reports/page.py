"""The one-page report: question, decision, figures with their terms, who supplied the lamps, and what is missing."""

import base64
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from jinja2 import Environment, PackageLoader, StrictUndefined
from markupsafe import Markup

from even_beam.bench import notation
from even_beam.bench.comparison import Comparison
from even_beam.bench.planning import cautions
from even_beam.bench.records import Conditions, Session
from even_beam.bench.summary import SummaryRow
from even_beam.figures.chart import Chart
from even_beam.figures.print_renderer import svg
from even_beam.fonts import font_data
from even_beam.reports.errors import ReportError


@dataclass(frozen=True, slots=True)
class LampLine:
    """A lamp as the report names it."""

    name: str
    kind: str
    supplied_by: str


@dataclass(frozen=True, eq=False, slots=True)
class PageContent:
    """Everything that stands on the page."""

    session: Session
    publisher: str
    lamps: tuple[LampLine, ...]
    conditions: tuple[Conditions, ...]
    calibrations: tuple[str, ...]
    rows: tuple[SummaryRow, ...]
    comparison: Comparison | None
    charts: tuple[Chart, ...]
    gaps: tuple[str, ...]
    doubts: tuple[str, ...]
    observations: tuple[str, ...]
    taken: int
    left_out: int
    distance_unit: str = "m"
    paper: str = "A4"
    version: str = ""


def render(template: str, **values: Any) -> str:
    """A template with the shipped fonts inside it, everything escaped."""
    environment = Environment(
        loader=PackageLoader("even_beam.reports"),
        autoescape=True,
        undefined=StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
    )
    environment.globals.update(n=notation)
    fonts = {name: base64.b64encode(font_data(f"B612-{name}.otf")).decode() for name in ("Regular", "Bold")}
    return environment.get_template(template).render(fonts=fonts, **values)


def html(content: PageContent) -> str:
    """The page as one self-contained HTML text."""
    # at most two charts share the width of the page
    width = 178.0 / max(1, min(2, len(content.charts)))
    charts: Sequence[Any] = [
        {"svg": Markup(svg(chart, width, 54.0)), "summary": chart.summary}
        for chart in content.charts
        if not chart.empty
    ]
    return render("page.html", c=content, charts=charts, eyes=cautions.EYES)


def write_html(content: PageContent, path: Path) -> None:
    """The page as an HTML file. Raises `ReportError`."""
    write_bytes(path, html(content).encode("utf-8"))


def write_pdf(content: PageContent, path: Path) -> None:
    """The page as a PDF file; takes a second or two. Raises `ReportError`."""
    write_pdf_of(html(content), path)


def write_pdf_of(text: str, path: Path) -> None:
    """Any self-contained HTML as a PDF file. Raises `ReportError`, also for a text that reaches outside itself."""
    from weasyprint import HTML  # heavy: only when a PDF is asked for
    from weasyprint.urls import URLFetcher

    class OnlyWhatIsInside(URLFetcher):  # type: ignore[misc]
        """A report never reaches for anything outside itself."""

        def fetch(self, url: str, headers: object = None) -> Any:
            if not url.startswith("data:"):
                raise ReportError(f"the report refers to {url}; nothing outside it is fetched")
            return super().fetch(url, headers)

    write_bytes(path, HTML(string=text, url_fetcher=OnlyWhatIsInside()).write_pdf())


def write_bytes(path: Path, data: bytes) -> None:
    """Write a whole file or none. Raises `ReportError`."""
    partial = path.with_name(path.name + ".part")
    try:
        partial.write_bytes(data)
        partial.replace(path)
    except OSError as error:
        raise ReportError(
            f"{path.name} could not be written: {error.strerror}. The logbook is unharmed; choose another place."
        ) from error

"""Labels as a PDF of exact size: one a page on a roll, or on sheets from any position on."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path

import segno

from even_beam.reports.label import QUIET_MODULES, Code, Label, LabelSize
from even_beam.reports.page import pdf_of, render, write_bytes


@dataclass(slots=True)
class _Page:
    """A page of exact size with labels at their corners."""

    width_mm: float
    height_mm: float
    labels: list[tuple[float, float, Label]] = field(default_factory=list)


def write_labels(labels: Sequence[Label], size: LabelSize, path: Path, start: int = 1) -> None:
    """Labels as a PDF file; `start` is the first free place on the sheet, from 1 on.

    Raises `ReportError`, and `ValueError` for a place that the sheet does not have.
    """
    write_bytes(path, pdf_of(labels_html(labels, size, start)))


def labels_html(labels: Sequence[Label], size: LabelSize, start: int = 1) -> str:
    """Labels as the text that is printed. Raises `ValueError` for a place that the sheet does not have."""
    if not 1 <= start <= size.of_sheet:
        raise ValueError(f"{size.words}: the places are 1 to {size.of_sheet}, not {start}")
    pages: list[_Page] = []
    for number, label in enumerate(labels, start=start - 1):
        place = number % size.of_sheet
        if place == 0 or not pages:
            pages.append(_Page(*(size.page_mm or (label.width_mm, label.height_mm))))
        column, row = place % size.columns, place // size.columns
        x = size.margin_mm[0] + column * ((size.width_mm or 0.0) + size.gap_mm)
        y = size.margin_mm[1] + row * (size.height_mm or 0.0)
        pages[-1].labels.append((x, y, label))
    return render("labels.html", pages=pages, code=_drawn)


def _drawn(code: Code) -> str:
    """The code as a picture of a pixel a module, which is printed without smoothing."""
    symbol = segno.make_qr(code.text, error=code.level, boost_error=False)
    return str(symbol.png_data_uri(scale=1, border=QUIET_MODULES))

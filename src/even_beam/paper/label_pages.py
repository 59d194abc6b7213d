"""Labels as a PDF of exact size: one a page on a roll, or on sheets from any position on."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from itertools import groupby
from pathlib import Path

from even_beam.files.writing import write
from even_beam.paper.label import Code, Label, LabelSize, Placed
from even_beam.paper.page import pdf_of, render
from even_beam.paper.qr_code import modules_of, png_uri


@dataclass(slots=True)
class _Page:
    """A page of exact size with labels at their corners."""

    width_mm: float
    height_mm: float
    labels: list[tuple[float, float, Label]] = field(default_factory=list)


def write_labels(
    labels: Sequence[Label], size: LabelSize, path: Path, start: int = 1, *, over_others: bool = False
) -> None:
    """Labels as a PDF file; `start` is the first free place on the sheet, from 1 on.

    Raises `ReportError`, `OutputError`, and `ValueError` for a place that the sheet does not have.
    """
    write(path, pdf_of(labels_html(labels, size, start)), over_others=over_others)


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
    return render("labels.html", pages=pages, blocks=_blocks, code=_drawn)


def _blocks(label: Label) -> list[list[Placed]]:
    """Lines below each other in one type, which are set at once: a page of labels takes half the time."""
    return [list(lines) for _, lines in groupby(label.placed, lambda one: (one.x_mm, one.size_pt, one.bold))]


def _drawn(code: Code) -> str:
    symbol = modules_of(code.text, code.level)
    if symbol is None:
        raise ValueError("a label was laid out with a code that holds too much")
    return png_uri(symbol)

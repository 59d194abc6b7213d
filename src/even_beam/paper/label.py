"""Labels for a lamp's controller and head, laid out to the millimetre: nothing smaller than 5 pt, nothing left off
silently."""

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from even_beam.fonts.widths import POINT_MM, width_mm
from even_beam.paper.qr_code import modules_of
from even_beam.words.notation import MINUS, THIN_SPACE

SMALLEST_PT, LARGEST_PT, TITLE_PT = 5.0, 8.0, 13.0
TITLE_TIMES = 1.4
"""A name is so much larger than the rest, where the label has the room."""
LEADING = 1.22
MODULE_MM = 0.25
"""The smallest square of a code that a hand-held camera reads from a label printer (common practice, no source)."""
GAP_MM = 1.5
CODE_SHARE = 0.32
"""Of the width of a label its code takes so much at most."""


@dataclass(frozen=True, slots=True)
class LabelContent:
    """What a label says: the lamp, how it was read (always printed), its lines from the weightiest on, and its code."""

    name: str
    read: str
    lines: tuple[str, ...]

    @property
    def texts(self) -> tuple[str, ...]:
        """Every line, as the code has them."""
        return (self.name, *self.lines, self.read)


@dataclass(frozen=True, slots=True)
class LabelSize:
    """A size by its name: a sheet of labels, or a roll that is so high (`length` runs on) or so wide.

    Sheets: `page` in mm, columns and rows, the size of one label, the margins before the first and the gap between
    columns.
    """

    name: str
    width_mm: float | None
    height_mm: float | None
    words: str
    page_mm: tuple[float, float] | None = None
    columns: int = 1
    rows: int = 1
    margin_mm: tuple[float, float] = (0.0, 0.0)
    gap_mm: float = 0.0
    most_mm: float = 0.0
    edge_mm: float = 1.0

    def rows_mm(self, start: int, count: int) -> tuple[float, float]:
        """How far from its top the first sheet is printed on, by so many labels from the place `start` on."""
        first = (start - 1) // self.columns
        last = min((start + count - 2) // self.columns, self.rows - 1)
        height = self.height_mm or 0.0
        return self.margin_mm[1] + first * height, self.margin_mm[1] + (last + 1) * height

    @property
    def of_sheet(self) -> int:
        """So many on a sheet; one a page on a roll."""
        return self.columns * self.rows


INCH = 25.4
SIZES = {
    size.name: size
    for size in (
        LabelSize("12mm", None, 12.0, "a roll 12 mm high", most_mm=140.0),
        LabelSize("18mm", None, 18.0, "a roll 18 mm high", most_mm=120.0),
        LabelSize("24mm", None, 24.0, "a roll 24 mm high", most_mm=110.0),
        LabelSize("62mm", 62.0, None, "a roll 62 mm wide", most_mm=90.0, edge_mm=2.0),
        LabelSize(
            "A4-3x8", 70.0, 37.0, "A4, 3 by 8 labels", (210.0, 297.0), 3, 8, margin_mm=(0.0, 0.5), edge_mm=4.0
        ),
        LabelSize(
            "Letter-3x10", 2.625 * INCH, INCH, "Letter, 3 by 10 labels", (8.5 * INCH, 11.0 * INCH), 3, 10,
            margin_mm=(0.1875 * INCH, 0.5 * INCH), gap_mm=0.125 * INCH, edge_mm=2.0,
        ),
    )
}  # fmt: skip
"""Widths of rolls and sheets as they are sold everywhere (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Placed:
    """A line of text with the upper left corner of its box, its width and height, in mm from the label's own."""

    text: str
    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float
    size_pt: float
    bold: bool = False


@dataclass(frozen=True, slots=True)
class Code:
    """A QR code (ISO/IEC 18004) with its quiet margin: the text in it, its level of error correction, its corner and
    side, and the modules across with the margin."""

    text: str
    level: str
    x_mm: float
    y_mm: float
    side_mm: float
    modules: int


@dataclass(frozen=True, slots=True)
class Label:
    """A label laid out; `left_off` are the lines that did not fit, `left_off_code` those that only the code lacks."""

    content: LabelContent
    width_mm: float
    height_mm: float
    placed: tuple[Placed, ...]
    code: Code | None
    left_off: tuple[str, ...] = ()
    left_off_code: tuple[str, ...] = ()

    @property
    def smallest_pt(self) -> float:
        """The smallest type on it."""
        return min(one.size_pt for one in self.placed)


def laid_out(content: LabelContent, size: LabelSize) -> Label:
    """A label of a size, with as much of its content as can be read on it."""
    if size.height_mm is None:
        return _on_wide_roll(content, size)
    if size.width_mm is None:
        return _on_tape(content, size)
    return _on_sheet(content, size)


def _code(content: LabelContent, most_mm: float) -> tuple[Code | None, tuple[str, ...]]:
    """A code of at most so many mm that holds as many lines as it can, the weightiest first; and the lines it lacks.

    A code that could hold no figure is none. Small ones correct fewer errors, which holds more text.
    """

    def made(count: int) -> Code | None:
        text = code_text((content.name, *content.lines[:count], content.read))
        for level in ("m", "l"):
            symbol = modules_of(text, level)
            across = len(symbol) if symbol is not None else 0
            if across and across * MODULE_MM <= most_mm:
                side = min(most_mm, 0.5 * across)  # larger than half a millimetre a module helps nobody
                return Code(text, level, 0.0, 0.0, side, across)
        return None

    count = _most(len(content.lines), lambda n: made(n) is not None)
    if not count:
        return None, content.texts
    return made(count), content.lines[count:]


def code_text(lines: Sequence[str]) -> str:
    """Lines as a code holds them: without the signs that take three bytes each."""
    return "\n".join(lines).translate(_PLAIN)


_PLAIN = {ord(THIN_SPACE): None, ord(MINUS): "-", ord("·"): ";", ord("±"): "+-"}


def _wrapped(text: str, room_mm: float, size_pt: float, *, bold: bool = False) -> list[str]:
    """Text in lines of so many mm, broken at blanks, within a word only where it is longer than a line."""
    lines: list[str] = []
    line = ""
    for word in re.split(r"[ \t\n]+", text.strip()):  # a thin space groups digits and is no place to break
        longer = f"{line} {word}".strip()
        if width_mm(longer, size_pt, bold=bold) <= room_mm:
            line = longer
            continue
        if line:
            lines.append(line)
        line = word
        while width_mm(line, size_pt, bold=bold) > room_mm and len(line) > 1:
            cut = len(line) - 1
            while cut > 1 and width_mm(line[:cut], size_pt, bold=bold) > room_mm:
                cut -= 1
            lines.append(line[:cut])
            line = line[cut:]
    return [*lines, line] if line else lines


def _stacked(
    content: LabelContent, lines: Sequence[str], room_mm: float, size_pt: float, title_pt: float
) -> tuple[list[tuple[str, float, bool]], float]:
    """Title, lines and how it was read, broken to a width, and the height they take."""
    rows = [(text, title_pt, True) for text in _wrapped(content.name, room_mm, title_pt, bold=True)]
    for line in (*lines, content.read):
        rows += [(text, size_pt, False) for text in _wrapped(line, room_mm, size_pt)]
    return rows, sum(size * POINT_MM * LEADING for _, size, _ in rows)


def _fitted(
    content: LabelContent, room_mm: float, height_mm: float
) -> tuple[list[tuple[str, float, bool]], tuple[str, ...]]:
    """As many lines as fit, as large as they then can be, and those left off."""

    def fits(count: int) -> bool:
        title = SMALLEST_PT * TITLE_TIMES
        return _stacked(content, content.lines[:count], room_mm, SMALLEST_PT, title)[1] <= height_mm

    count = _most(len(content.lines), fits)
    if count is not None:
        for size in _sizes(LARGEST_PT):
            for title in (pt for pt in _sizes(TITLE_PT) if pt >= TITLE_TIMES * size):
                rows, height = _stacked(content, content.lines[:count], room_mm, size, title)
                if height <= height_mm:
                    return rows, content.lines[count:]
    rows, _ = _stacked(content, (), room_mm, SMALLEST_PT, SMALLEST_PT)
    kept = int(height_mm / (SMALLEST_PT * POINT_MM * LEADING))
    return rows[:kept], (*content.lines, *(text for text, _, _ in rows[kept:]))


def _most(count: int, fits: Callable[[int], bool]) -> int | None:
    """The most lines that fit, where more lines never fit better; None where not even none do."""
    low, high = (count, count) if fits(count) else (-1, count - 1)
    while low < high:
        middle = (low + high + 1) // 2
        low, high = (middle, high) if fits(middle) else (low, middle - 1)
    return low if low >= 0 else None


def _sizes(largest: float) -> Sequence[float]:
    steps = int((largest - SMALLEST_PT) * 2)
    return [largest - 0.5 * n for n in range(steps + 1)]


def _place(rows: Sequence[tuple[str, float, bool]], x_mm: float, y_mm: float) -> tuple[Placed, ...]:
    placed = []
    for text, size, bold in rows:
        height = size * POINT_MM * LEADING
        placed.append(Placed(text, x_mm, y_mm, width_mm(text, size, bold=bold), height, size, bold))
        y_mm += height
    return tuple(placed)


def _on_sheet(content: LabelContent, size: LabelSize) -> Label:
    width, height = size.width_mm or 0.0, size.height_mm or 0.0
    inner = height - 2.0 * size.edge_mm
    code, lacking = _code(content, min(inner, CODE_SHARE * width))
    room = width - 2.0 * size.edge_mm - (code.side_mm + GAP_MM if code is not None else 0.0)
    rows, left = _fitted(content, room, inner)
    return Label(
        content, width, height, _place(rows, size.edge_mm, size.edge_mm),
        _moved(code, width - size.edge_mm, size.edge_mm), left, lacking,
    )  # fmt: skip


def _moved(code: Code | None, right_mm: float, top_mm: float) -> Code | None:
    if code is None:
        return None
    return replace(code, x_mm=right_mm - code.side_mm, y_mm=top_mm)


def _on_wide_roll(content: LabelContent, size: LabelSize) -> Label:
    """As long as its content needs."""
    width = size.width_mm or 0.0
    code, lacking = _code(content, CODE_SHARE * width)
    room = width - 2.0 * size.edge_mm - (code.side_mm + GAP_MM if code is not None else 0.0)
    rows, left = _fitted(content, room, size.most_mm - 2.0 * size.edge_mm)
    needed = max(sum(pt * POINT_MM * LEADING for _, pt, _ in rows), code.side_mm if code is not None else 0.0)
    return Label(
        content, width, needed + 2.0 * size.edge_mm, _place(rows, size.edge_mm, size.edge_mm),
        _moved(code, width - size.edge_mm, size.edge_mm), left, lacking,
    )  # fmt: skip


def _on_tape(content: LabelContent, size: LabelSize) -> Label:
    """Columns of lines along a tape, the name first, the code last."""
    height = size.height_mm or 0.0
    inner = height - 2.0 * size.edge_mm
    code, lacking = _code(content, height)  # its quiet margin may lie in the edge
    side = code.side_mm + GAP_MM if code is not None else 0.0

    def ends_in_time(placed: Sequence[Placed]) -> bool:
        return max(one.x_mm + one.width_mm for one in placed) + side + size.edge_mm <= size.most_mm

    def in_columns(count: int, pt: float) -> tuple[Placed, ...]:
        return _in_columns(content, content.lines[:count], inner, pt, size)

    count = _most(len(content.lines), lambda n: ends_in_time(in_columns(n, SMALLEST_PT)))
    if count is not None:
        for pt in _sizes(min(LARGEST_PT, inner / (2.0 * POINT_MM * LEADING))):
            placed = in_columns(count, pt)
            if ends_in_time(placed):
                return _tape(content, placed, height, code, size, content.lines[count:], lacking)
    placed = _in_columns(content, (), inner, SMALLEST_PT, size)
    kept = tuple(one for one in placed if one.x_mm + one.width_mm + side + size.edge_mm <= size.most_mm) or placed[:1]
    gone = tuple(one.text for one in placed if one not in kept)
    return _tape(content, kept, height, code, size, (*content.lines, *gone), lacking)


def _in_columns(
    content: LabelContent, lines: Sequence[str], inner: float, pt: float, size: LabelSize
) -> tuple[Placed, ...]:
    """The name first, as high as two rows or broken into two where it is long, then columns of as many rows as the tape
    has."""
    edge, row = size.edge_mm, pt * POINT_MM * LEADING
    title_pt = min(TITLE_PT, 2.0 * pt, inner / (POINT_MM * LEADING))
    room = NAME_SHARE * size.most_mm
    if width_mm(content.name, title_pt, bold=True) > room:
        title_pt = pt
    name = _wrapped(content.name, room, title_pt, bold=True)[: int(inner / (title_pt * POINT_MM * LEADING))]
    placed = list(_place([(text, title_pt, True) for text in name], edge, edge))
    x, y = edge, edge + sum(one.height_mm for one in placed)
    right = max(one.x_mm + one.width_mm for one in placed)
    for text in (content.read, *lines):
        if y + row > edge + inner + 1e-9:
            x, y = right + GAP_MM, edge
            right = x
        wide = width_mm(text, pt)
        placed.append(Placed(text, x, y, wide, row, pt))
        y += row
        right = max(right, x + wide)
    return tuple(placed)


NAME_SHARE = 0.45
"""Of the longest tape a name has so much, before it is broken into lines."""


def _tape(
    content: LabelContent,
    placed: Sequence[Placed],
    height: float,
    code: Code | None,
    size: LabelSize,
    left: tuple[str, ...],
    lacking: tuple[str, ...],
) -> Label:
    right = max(one.x_mm + one.width_mm for one in placed)
    length = right + (GAP_MM + code.side_mm if code is not None else 0.0) + size.edge_mm
    middle = (height - code.side_mm) / 2.0 if code is not None else 0.0
    return Label(content, length, height, tuple(placed), _moved(code, length - size.edge_mm, middle), left, lacking)

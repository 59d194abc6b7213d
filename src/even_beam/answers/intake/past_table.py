"""A table of past readings understood: texts become figures and terms, and are kept as typed."""

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime
from functools import lru_cache
from pathlib import Path

from even_beam.bench.exposure import Exposure, ExposureError, shutter_of
from even_beam.bench.field_texts import FIXED, TermsError
from even_beam.bench.fields import FIELDS, terms_of_texts
from even_beam.bench.limits import ImpossibleError, checked, impossible_figure
from even_beam.bench.measured import Measured
from even_beam.bench.records import Origin, Reading, Terms, Value
from even_beam.bench.run import ReadingState
from even_beam.formats import FormatError, columns, readings_table
from even_beam.formats.dates import order_of, time_of
from even_beam.formats.readings_table import PastFigure
from even_beam.formats.sheet_layout import LeftOut, Place
from even_beam.known.choice import Entrant
from even_beam.known.doubts import SLIPS, Flag, asked_about, flags
from even_beam.light.photometry import FLAT_CONSTANT
from even_beam.words import notation
from even_beam.words.decimal_sign import decimal_sign_of, with_points
from even_beam.words.entry import AmbiguousEntryError, EntryError, parse
from even_beam.words.f_number_scale import are_plain, exactly, plain_number
from even_beam.words.quantities import QUANTITIES


@dataclass(slots=True)
class PastTable:
    """A table understood: readings by session, and the figures that could not be, each with its place and reason."""

    name: str
    by_session: dict[str, list["Draft"]] = field(default_factory=dict)
    refusals: list["Refusal"] = field(default_factory=list)
    left_out: tuple[LeftOut, ...] = ()
    columns_left_out: tuple[str, ...] = ()

    @property
    def refused(self) -> list[str]:
        """What could not be understood, in words."""
        return [refusal.words for refusal in self.refusals]

    @property
    def passed_over(self) -> list[str]:
        """What was not even looked at: footers, sheets of another shape, columns that are nothing here."""
        columns_too = f"the column{'s' * (len(self.columns_left_out) > 1)} {', '.join(self.columns_left_out)}"
        return [*(one.words for one in self.left_out), *([columns_too] if self.columns_left_out else [])]


@dataclass(frozen=True, slots=True)
class Refusal:
    """A figure that could not be understood, as it stands in the table; `alone` where the rest of its row could."""

    where: Place
    figure: str
    why: str
    alone: bool = False

    @property
    def words(self) -> str:
        """Where and why it was left out."""
        rest = f" (the rest of the {self.where.along} comes in)" if self.alone else ""
        return f"{self.where}: {self.why}{rest}"


def understand(table: readings_table.Table, mapping: Mapping[str, str] | None = None) -> PastTable:
    """The readings of a flat table. Raises `FormatError` when nothing in it can be used.

    A figure that cannot be understood is refused with its place and reason; the others come in, and the note of
    a reading that lacks it says what stood there.
    """
    told = mapping if mapping is not None else columns.guess(table.headings)
    strange = tuple(text for text in table.headings if text and not told.get(text, columns.IGNORED))
    found = PastTable(table.name, left_out=table.left_out, columns_left_out=strange)
    came: dict[Place, Draft] = {}
    rows = readings_table.figures_of(table, mapping)
    sign = decimal_sign_of(row[name] for row in rows for name in _NUMBERS)
    are_numbers = are_plain(row["value"] for row in rows if _quantity(row) == "f_stop")
    fallback = Path(table.name).stem
    order = order_of(row["time"] for row in rows if row["time"])
    for row in rows:
        try:
            read = _with_plain_stop(_readable(row, sign)) if are_numbers else _readable(row, sign)
            came[row.where] = _add_row(read, row["value"], found.by_session, fallback, order)
        except (EntryError, TermsError, ImpossibleError, ExposureError) as error:
            found.refusals.append(Refusal(row.where, row["value"], str(error)))
    found.refusals = [replace(one, alone=one.where in came) for one in found.refusals]
    for refusal in found.refusals:
        if refusal.alone:
            came[refusal.where].notes.append(f"not understood in the table: “{refusal.figure}”")
    if not found.by_session:
        reasons = "; ".join(found.refused[:20]) or "no row holds a figure"
        more = f"; and {len(found.refused) - 20} more" if len(found.refused) > 20 else ""
        raise FormatError(f"{table.name}: no row could be understood. {notation.sentence(reasons)}{more}")
    return found


@dataclass(slots=True)
class Draft:
    """One reading of a table, as understood; `where` it stands, `key` what tells it from the next."""

    where: Place
    key: tuple[str, ...]
    fixture: str
    meter: str
    terms: Terms
    at: datetime | None
    notes: list[str]
    values: list[Value] = field(default_factory=list)
    exposure: Exposure | None = None


_TERMS_COLUMNS = {one.column: one for one in FIELDS if one.column and one.read is not None}
"""The columns that hold terms, with the field that reads each."""


_REMARKS = {
    "iso": "ISO {}",
    "shutter": "shutter {}",
    "receptor_c": "receptor C {}",
    "ssi_reference": "SSI against {}",
    "fan": "fan {}",
    "power_source": "power from {}",
}
"""Columns that no term holds: kept in the note of the reading, so that nothing of a table is lost."""


def _notes(row: PastFigure) -> list[str]:
    """What a row says beside its figure and its terms."""
    said = [text.format(row[name]) for name, text in _REMARKS.items() if row[name]]
    return [row["note"], *said] if row["note"] else said


_NUMBERS = ("value", "cct_k", "dimmer_pct", "distance", "position", "hue", "saturation", "iso", "receptor_c")
"""Columns whose cells are numbers, as one hand or one program wrote them."""


def _readable(row: PastFigure, sign: str) -> PastFigure:
    """A row whose numbers have a point before their decimals, where the table has told its own sign."""
    return replace(row, cells=row.cells | {name: with_points(row[name], sign) for name in _NUMBERS if row[name]})


def _with_plain_stop(row: PastFigure) -> PastFigure:
    """A row whose f-number is a plain number, where it could be a full stop with tenths as well; the note says so."""
    number = plain_number(row["value"]) if _quantity(row) == "f_stop" else None
    if number is None:
        return row
    said = f"{row['value'].strip()} taken as the number {exactly(number)}, not as tenths of a stop"
    note = f"{row['note']}; {said}" if row["note"] else said
    return replace(row, cells=row.cells | {"value": exactly(number), "note": note})


def _add_row(row: PastFigure, typed: str, by_session: dict[str, list[Draft]], fallback: str, order: str) -> Draft:
    """The reading that the figure went to; `typed` is the figure as it stands in the table."""
    value = replace(_value(row), text=_with_unit(typed, row))
    drafts = by_session.setdefault(row["session"] or fallback, [])
    key = tuple(row[name] for name in ("fixture", "meter", "time", *_TERMS_COLUMNS, *_REMARKS))
    last = drafts[-1] if drafts else None
    if last is not None and last.key == key and all(v.quantity != value.quantity for v in last.values):
        last.values.append(value)
        last.notes += [note for note in _notes(row) if note not in last.notes]
        return last
    try:
        terms, time, exposure = _terms(row), _time(row["time"], order), _exposure(row)
        draft = Draft(
            where=row.where,
            key=key,
            fixture=row["fixture"],
            meter=row["meter"],
            terms=terms,
            at=time,
            notes=_notes(row),
            values=[value],
            exposure=exposure,
        )
    except (EntryError, TermsError, ImpossibleError, ExposureError):
        if not drafts:
            del by_session[row["session"] or fallback]
        raise
    drafts.append(draft)
    return draft


def _exposure(row: PastFigure) -> Exposure | None:
    """What the f-numbers of a row stand for, where sensitivity and exposure time were stated."""
    if not row["iso"] or not row["shutter"]:
        return None
    iso = parse(row["iso"].lower().removeprefix("iso")).middle
    constant = parse(row["receptor_c"]).middle if row["receptor_c"] else FLAT_CONSTANT
    return Exposure(iso, shutter_of(row["shutter"]), constant)


def _with_unit(figure: str, row: PastFigure) -> str:
    """A figure of a row as it is said: with the unit of its column unless it has its own, an f-number as one."""
    if row["unit"] and _is_without_unit(figure):
        return f"{figure} {row['unit']}"
    if (cast := _CAST.fullmatch(figure.strip())) is not None:
        return f"{'-' * ((cast[2] or cast[3]).upper() == 'M')}{cast[1] or cast[4]} cc"
    is_bare_stop = _quantity(row) == "f_stop" and not figure.lower().startswith("f")
    return f"f/{figure}" if is_bare_stop else figure


_CAST = re.compile(r"(\d{1,2}(?:\.\d)?)\s*([MG])|([MG])\s*(\d{1,2}(?:\.\d)?)")
"""CC as a meter shows it: 3 G, M4."""


_LIKE_A_ONE = re.compile(r"\dl$", re.IGNORECASE)


def _is_without_unit(figure: str) -> bool:
    """Whether a figure says no unit of its own: 320, about 320, 300 to 320; not 320 lx. The letter that stands for lux
    in a typed line is a slip in a table: 12l."""
    if _LIKE_A_ONE.search(figure):
        return True
    try:
        return parse(figure).quantity is None
    except AmbiguousEntryError:
        return True
    except EntryError:
        return True


def _quantity(row: PastFigure) -> str:
    return row["quantity"].lower().replace("-", "_")


def _value(row: PastFigure) -> Value:
    quantity = _quantity(row)
    if quantity not in QUANTITIES:
        raise EntryError(f"the quantity “{row['quantity']}” is not known; known are {', '.join(QUANTITIES)}")
    text = _with_unit(row["value"], row)
    entry = parse(text, quantity)
    if entry.quantity not in {quantity, "percent", "angle"}:
        raise EntryError(f"“{text}” is not a figure of {QUANTITIES[quantity].label}")
    if (problem := impossible_figure(quantity, entry.value, entry.low, entry.high)) is not None:
        raise ImpossibleError(problem)
    return Value(
        quantity=quantity,
        value=entry.value,
        origin=Origin.TYPED,
        low=entry.low,
        high=entry.high,
        unit=QUANTITIES[quantity].unit,
        qualifier=(row["ssi_reference"] if quantity == "ssi" else "") or row["qualifier"] or entry.qualifier,
    )


def _terms(row: PastFigure) -> Terms:
    """The terms of a row: what it does not say was not stated, and a white that it says was dialled."""
    return _terms_of(tuple((field.name, row[column]) for column, field in _TERMS_COLUMNS.items() if row[column]))


@lru_cache(maxsize=4096)
def _terms_of(texts: tuple[tuple[str, str], ...]) -> Terms:
    return checked(terms_of_texts(dict(texts), Terms(mode=FIXED, placement="unknown")))


def _time(text: str, order: str) -> datetime | None:
    if not text:
        return None
    time = time_of(text, order)
    if time is None:
        raise EntryError(f"“{text}” is not a time, or could be two; write 2026-11-25T14:30 or 25.11.2026")
    return time


def slips_in(readings: Sequence[Reading], name_of: Callable[[str], str]) -> list[Flag]:
    """What one slip of the hand would explain, lamp by lamp."""
    return [flag for entrant in _entrants(readings, name_of) for flag in flags(entrant) if flag.cause in SLIPS]


def asked_in(readings: Sequence[Reading], name_of: Callable[[str], str]) -> list[Flag]:
    """What is worth a second look though nothing rules it out; it counts all the same."""
    return [flag for entrant in _entrants(readings, name_of) for flag in asked_about(entrant)]


def _entrants(readings: Sequence[Reading], name_of: Callable[[str], str]) -> list[Entrant]:
    by_lamp: dict[str, list[Measured]] = {}
    for reading in readings:
        if len(reading.source_ids) == 1:
            by_lamp.setdefault(reading.source_ids[0], []).append(Measured(ReadingState(reading, reading.terms)))
    return [Entrant(source_id, name_of(source_id), "", tuple(own)) for source_id, own in by_lamp.items()]

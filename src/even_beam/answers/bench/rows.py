"""The sheet beside the Bench: the steps of a run, or the readings so far, each with its figure and its standing."""

from collections.abc import Mapping, Sequence
from functools import lru_cache
from typing import NamedTuple

from even_beam.answers.bench import target as target_view
from even_beam.answers.bench.sheet_row import SheetRow
from even_beam.bench import fields, terms_in_words
from even_beam.bench import terms as sameness
from even_beam.bench.fields import BY_NAME
from even_beam.bench.measured import Measured
from even_beam.bench.records import Terms
from even_beam.bench.run import ReadingState, StepState
from even_beam.desk.session.desk import SessionDesk
from even_beam.shell.settings import Settings
from even_beam.words import notation


def sheet(desk: SessionDesk, settings: Settings) -> list[SheetRow]:
    """The run sheet, a heading a lamp; without a run, the sources about the target, or the readings so far."""
    if not desk.is_run and desk.target is not None:
        return target_view.rows(desk, desk.target)
    if not desk.is_run:
        return _readings_list(desk, settings)
    rows: list[SheetRow] = []
    heading = ""
    columns = _columns(frozenset(state.step.terms for state in desk.state.steps))
    several = len({state.step.source_ids for state in desk.state.steps}) > 1
    for index, state in enumerate(desk.state.steps):
        told = _row_terms(state.step.terms, columns, settings.distance_unit)[0]
        lamp = desk.name_of(state.step.source_ids) if several or not columns.in_headings else ""
        name = " · ".join(filter(None, (lamp, told)))
        if name != heading:
            heading = name
            rows.append(SheetRow(f"heading {index}", name, heading=True))
        rows.append(_sheet_row(desk, state, index == desk.state.current, columns, settings))
    return rows


_OF_COLUMN: Mapping[str, frozenset[str]] = {
    "configuration": frozenset({"configuration"}),
    "axis": frozenset({"angle", "turn"}),
    "distance": frozenset({"distance", "placement"}),
    "zoom": frozenset({"zoom"}),
    "white": frozenset({"mode", "cct", "tint", "hue", "saturation"}),
    "level": frozenset({"level"}),
}
"""What a line of a run can tell, and the fields of terms that are told so; what a run changes least stands first."""


_OUTER = ("configuration", "axis")
"""Never told in lines."""


class Columns(NamedTuple):
    """What varies over a run: the two things that change most stand in its lines, the others in the headings, which are
    narrow and have nothing else."""

    in_headings: tuple[str, ...]
    in_lines: tuple[str, str]


@lru_cache(maxsize=16)
def _columns(every: frozenset[Terms]) -> Columns:
    keys = [fields.key_of_terms(terms) for terms in every]
    varying = {name for name, values in zip(fields.NAMES, zip(*keys, strict=True), strict=False) if len({*values}) > 1}
    found = [name for name, own in _OF_COLUMN.items() if own & varying]
    outer, inner = [name for name in found if name in _OUTER], [name for name in found if name not in _OUTER]
    if len(inner) > 1:
        return Columns((*outer, *inner[:-2]), (inner[-2], inner[-1]))
    if inner == ["distance"] and any(terms.zoom for terms in every):
        return Columns(tuple(outer), ("distance", "zoom"))
    return Columns(tuple(outer), (inner[0], "level") if inner in (["distance"], ["zoom"]) else ("white", "level"))


@lru_cache(maxsize=4096)
def _row_terms(terms: Terms, columns: Columns, distance_unit: str) -> tuple[str, str, str]:
    """The heading a step stands under, and its two terms. Kept, since every reading shows the whole sheet anew."""
    headed = columns.in_headings or _OUTER
    heading = " · ".join(filter(None, (_told(terms, name, distance_unit) for name in headed)))
    first, second = (_told(terms, name, distance_unit) for name in columns.in_lines)
    return heading, first, second


def _told(terms: Terms, column: str, distance_unit: str) -> str:
    if column == "configuration":
        return terms_in_words.configuration(terms)
    if column == "axis":
        return terms_in_words.axis(terms)
    if column == "distance":
        return terms_in_words.placement(terms, distance_unit)
    if column == "zoom":
        return terms_in_words.zoom(terms)
    return terms_in_words.stated_white(terms) if column == "white" else terms_in_words.level(terms)


@lru_cache(maxsize=4096)
def _coming(step_id: str, terms: Terms, columns: Columns, distance_unit: str) -> SheetRow:
    """The line of a step that nothing was read for yet."""
    _, first, second = _row_terms(terms, columns, distance_unit)
    return SheetRow(step_id, first, second)


def _sheet_row(desk: SessionDesk, state: StepState, here: bool, columns: Columns, settings: Settings) -> SheetRow:
    if not (here or state.readings or state.skipped):
        return _coming(state.step.id, state.step.terms, columns, settings.distance_unit)
    _, first, second = _row_terms(state.step.terms, columns, settings.distance_unit)
    unit = settings.illuminance_unit
    if here and state.pending_doubt is not None:
        return SheetRow(state.step.id, first, second, "in doubt", "doubt")
    if here:
        return SheetRow(state.step.id, first, second, f"{state.taken + 1} of {state.required}", "here")
    if state.skipped:
        return SheetRow(state.step.id, first, second, "left out", "skipped")
    if state.done:
        accepted = [desk.of(r.reading.id) for r in state.readings if r.counts]
        values = tuple(value for m in accepted if (value := m.value("illuminance")) is not None)
        walk = columns.in_lines[0] == "distance"
        return SheetRow(state.step.id, first, second, _read_there(values, walk, unit), _standing(state.readings))
    return SheetRow(state.step.id, first, second)


@lru_cache(maxsize=4096)
def _read_there(values: tuple[float, ...], walk: bool, unit: str) -> str:
    """What was read at a step: each reading of a walk, else their mean."""
    if walk and len(values) <= 2:
        return " · ".join(notation.illuminance(v, unit) for v in values)
    figure = notation.illuminance(sum(values) / len(values) if values else None, unit)
    return figure if walk else f"{figure} {unit}"


def _standing(readings: Sequence[ReadingState]) -> str:
    if any(r.suspect for r in readings):
        return "suspect"
    return "kept" if any(r.kept_in_doubt for r in readings) else "done"


def _readings_list(desk: SessionDesk, settings: Settings) -> list[SheetRow]:
    rows = []
    unit = settings.illuminance_unit
    varying = sameness.varying([m for m in desk.measured if m.terms.mode != "off"]) - {"session", "meter"}
    names = [name for name in BY_NAME if name in varying] or ["cct"]
    for measured in desk.measured:
        level = measured.value("illuminance")
        figure = f"{notation.illuminance(level, unit)} {unit}" if level is not None else _first_figure(measured)
        name = desk.name_of(measured.reading.source_ids) if measured.reading.source_ids else "not named"
        standing = _standing([measured.state]) if measured.state.counts else "skipped"
        rows.append(SheetRow(measured.reading.id, name, _own_terms(measured, names), figure, standing))
    return rows


def _own_terms(measured: Measured, names: Sequence[str]) -> str:
    """What tells a reading from the others of its session."""
    if measured.terms.mode == "off":
        return terms_in_words.white(measured.terms)
    said = [sameness.value_words(measured, name) for name in names]
    return " · ".join(text for text in said if text) or terms_in_words.stated_white(measured.terms)


def _first_figure(measured: Measured) -> str:
    value = next(iter(measured.reading.values), None)
    if value is None:
        return notation.NONE
    return value.text if value.value is None or not value.unit else f"{notation.plain(value.value)} {value.unit}"

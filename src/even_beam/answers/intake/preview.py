"""What would come of a table, before anything is kept: its readings in words, what is doubtful first."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import UTC, datetime

from even_beam.answers.intake.past_table import Draft, PastTable, slips_in, understand
from even_beam.bench.records import Reading, Value
from even_beam.bench.terms import terms_line
from even_beam.formats import columns
from even_beam.formats.readings_table import Table
from even_beam.formats.sheet_layout import Place
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES

LOOKED_AT = 400
"""So many rows are understood for a preview; the whole table is when it is kept."""

NOT_KEPT = datetime(2000, 1, 1, tzinfo=UTC)
"""The time of readings that are only looked at."""

_COLUMN_WORDS = {
    "cct_k": "white dialled, K",
    "dimmer_pct": "level, %",
    "hue": "hue dialled",
    "saturation": "saturation dialled",
}


_UNITS_OF_HEADINGS = {"illuminance": ("lx", "klx", "fc"), "distance": ("m", "cm", "ft")}
"""The units that a heading may give to what its column holds."""


def column_words(target: str, unit: str = "") -> str:
    """What a column can be, in words; `unit` is the one that its heading gives, if any."""
    if target == columns.IGNORED:
        return "left out"
    if target == columns.ASKED:
        return "Ra, or the mean of fifteen? Choose"
    if target.startswith(columns.MEASURED):
        name = target.removeprefix(columns.MEASURED)
        quantity = QUANTITIES[name]
        read_in = unit if unit in _UNITS_OF_HEADINGS.get(name, ()) else quantity.unit
        return f"figures: {quantity.label}{f', {read_in}' if read_in else ''}"
    if unit in _UNITS_OF_HEADINGS.get(target, ()):
        return f"{target}, {unit}"
    return _COLUMN_WORDS.get(target, target.replace("_", " "))


@dataclass(frozen=True, slots=True)
class PreviewRow:
    """A row of the table as it would be kept; `doubt` says why it may be wrong, or why it is left out."""

    where: Place
    lamp: str
    terms: str
    figures: str
    doubt: str = ""


@dataclass(frozen=True, slots=True)
class Preview:
    """What would come of it in a sentence, and its rows, what is doubtful first."""

    sentence: str
    rows: tuple[PreviewRow, ...]


def preview_of(table: Table, mapping: Mapping[str, str], unit: str, most: int = 40) -> Preview:
    """A table read by a mapping, distances in `unit`. Raises `FormatError`."""
    past = understand(replace(table, rows=table.rows[:LOOKED_AT]), mapping)
    drafts = [draft for own in past.by_session.values() for draft in own]
    doubts = _doubts(past)
    rows = [
        PreviewRow(
            where=draft.where,
            lamp=draft.fixture or "not named",
            terms=terms_line(draft.terms, unit),
            figures=" · ".join(map(_figure, draft.values)),
            doubt=doubts.get(draft.where, ""),
        )
        for draft in drafts
    ]
    cells_at = dict(table.rows)
    refused = [
        PreviewRow(
            refusal.where,
            "",
            "this figure is left out" if refusal.alone else "left out",
            refusal.figure if refusal.alone else " · ".join(cell for cell in cells_at[refusal.where] if cell),
            refusal.why,
        )
        for refusal in past.refusals
    ]
    in_order = sorted([*refused, *rows], key=lambda row: (not row.doubt, row.where))
    return Preview(
        _sentence(past, drafts, sum(bool(row.doubt) for row in rows), len(table.rows)), tuple(in_order[:most])
    )


def _sentence(past: PastTable, drafts: list[Draft], doubtful: int, lines: int) -> str:
    lamps = sorted({draft.fixture for draft in drafts if draft.fixture})
    named = f" of {', '.join(lamps[:4])}{' …' if len(lamps) > 4 else ''}" if lamps else ", lamp not named"
    sessions, refused = len(past.by_session), past.refusals
    parts = [f"{len(drafts)} reading{'s' * (len(drafts) != 1)}{named} in {sessions} session{'s' * (sessions > 1)}."]
    parts += [f"{doubtful} in doubt: out until you say so."] if doubtful else []
    if refused:
        what = "figure" if any(one.alone for one in refused) else "row"
        parts.append(
            f"{len(refused)} {what}{'s' * (len(refused) > 1)} cannot be understood; first, {refused[0].words}."
        )
    parts += [f"This is of the first {LOOKED_AT} of {lines} rows."] if lines > LOOKED_AT else []
    return " ".join(parts)


def _figure(value: Value) -> str:
    """A figure as it was understood, with its unit."""
    quantity = QUANTITIES[value.quantity]
    if value.value is None:
        return value.text
    if value.quantity == "illuminance":
        return notation.light(value.value)
    return f"{quantity.label} {notation.plain(value.value, 3)} {quantity.unit}".strip()


def _doubts(past: PastTable) -> dict[Place, str]:
    """Why rows may be wrong, by their place; as in keeping, session by session."""
    found: dict[Place, str] = {}
    for name, drafts in past.by_session.items():
        readings = [
            Reading(
                id=str(place),
                session_id=name,
                at=NOT_KEPT,
                sequence=place,
                terms=draft.terms,
                source_ids=(draft.fixture,) if draft.fixture else (),
                values=tuple(draft.values),
            )
            for place, draft in enumerate(drafts)
        ]
        found |= {drafts[int(flag.reading_id)].where: flag.sentence for flag in slips_in(readings, str)}
    return found

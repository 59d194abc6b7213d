"""The table of Compare: the figures of every lamp at the common terms."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from even_beam.bench import fields, notation
from even_beam.bench.choice import Entrant
from even_beam.bench.comparison import Comparison, Entry
from even_beam.bench.dimmer_series import against_dimmer
from even_beam.bench.findings import modifiers
from even_beam.bench.findings.electrical import watts_of
from even_beam.bench.findings.tint import off_reference
from even_beam.bench.records import Meter
from even_beam.bench.ssi_reference import ssi_reference
from even_beam.bench.watts import Drawn, WattHint, watt_hints
from even_beam.bench.words import white_tolerance_mired
from even_beam.light.photometry import stops
from even_beam.workspace.findings.witness import Witness
from even_beam.workspace.logbook.collection import Collection


@dataclass(frozen=True, slots=True)
class Cell:
    """One cell of the table; `marked` for what stands out, `quiet` for what is only context."""

    text: str
    marked: bool = False
    quiet: bool = False


@dataclass(frozen=True, slots=True)
class TableRow:
    """One row: its name, and a cell a lamp."""

    name: str
    cells: tuple[Cell, ...]


MARKED_MIRED = 6.5
"""About 200 K at 5600 K: a white further off than this is marked, where the meter can tell."""
MARKED_DUV = 0.005
MARKED_RA = 90.0


def corner_words(comparison: Comparison) -> str:
    """What all have in common, in the corner of the table."""
    parts = [fields.BY_NAME[name].words(comparison.at[name]) for name in ("cct", "level") if name in comparison.at]
    return ", ".join(part for part in parts if part)


def table(
    comparison: Comparison,
    entrants: Sequence[Entrant],
    meters: Mapping[str, Meter],
    unit: str,
    hints: Sequence[WattHint] = (),
) -> tuple[TableRow, ...]:
    """The figures of every lamp at the common terms; `hints` of what watts would promise make a row of their own.

    Figures that no lamp has make no row.
    """
    entries = comparison.entries
    reference = next((e.name for e in entries if e.key == comparison.reference), "")
    white = comparison.at.get("cct")
    asked = f"dialled {notation.dialled(float(str(white)))} K gives" if white else "white"
    figures = (
        ("tint, Duv", _tint_cell, ("duv",)),
        ("tint, CC", lambda e: _figure_cell(e, "cc", 1), ("cc",)),
        ("Ra · R9", lambda e: _scores_cell(e, "ra", "r9"), ("ra", "r9")),
        ("R13 · R15", lambda e: _scores_cell(e, "r13", "r15"), ("r13", "r15")),
        ("Rf · SSI", _fidelity_cell, ("rf", "ssi")),
        ("TLCI", lambda e: _figure_cell(e, "tlci"), ("tlci",)),
        ("TLMF", lambda e: _figure_cell(e, "tlmf"), ("tlmf",)),
        ("hue · saturation", lambda e: _scores_cell(e, "hue", "saturation"), ("hue", "saturation")),
    )
    known = {name for e in entries for name in (*e.figures, *e.texts)}
    return (
        TableRow(f"illuminance, {unit}", tuple(_level_cell(e, unit) for e in entries)),
        TableRow(f"against {reference}", tuple(_ratio_cell(e, comparison) for e in entries)),
        *_watt_row(entries, hints),
        TableRow(asked, tuple(_white_cell(e, meters) for e in entries)),
        *(TableRow(name, tuple(cell(e) for e in entries)) for name, cell, own in figures if known & set(own)),
        TableRow("lowest level read", tuple(_lowest_cell(e, comparison) for e in entrants)),
        TableRow("readings", tuple(Cell(_readings_text(e), quiet=True) for e in entries)),
    )


def _level_cell(entry: Entry, unit: str) -> Cell:
    if entry.ratios_only:
        return Cell("ratios only")
    if entry.level is not None and entry.level.value is None and entry.rests_on:
        figure = entry.rests_on[0].figure("illuminance")
        return Cell(figure.text if figure is not None else notation.NONE)
    exposed = [n for m in entry.rests_on if m.figure("illuminance") is None and (n := m.value("f_stop"))]
    if exposed:
        return Cell(notation.f_stop(exposed[0]))
    return Cell(notation.illuminance(entry.illuminance, unit), quiet=entry.illuminance is None)


def _figure_cell(entry: Entry, name: str, decimals: int = 0) -> Cell:
    """A figure, or the bound that was typed of it."""
    if name in entry.texts:
        return Cell(entry.texts[name])
    value = entry.figures.get(name)
    shown = notation.number(value, decimals) if decimals else notation.score(value)
    return Cell(shown, quiet=value is None)


def _fidelity_cell(entry: Entry) -> Cell:
    """Rf and SSI, with the reference of SSI."""
    cell = _scores_cell(entry, "rf", "ssi")
    known = "ssi" in entry.figures or "ssi" in entry.texts
    return replace(cell, text=f"{cell.text} {ssi_reference(entry.colour)}") if known else cell


def watts_of_lamps(comparison: Comparison, witness: Witness, entrants: Sequence[Entrant]) -> tuple[WattHint, ...]:
    """What the watts of lamps would promise: as read, else as claimed; of lamps whose levels may be compared."""
    by_id = {entrant.key: entrant for entrant in entrants}
    drawn = []
    for entry in comparison.entries:
        evidence = witness.evidence(by_id[entry.key])
        measured = [w for m in evidence.readings if (w := watts_of(m)) is not None and w > 0.0]
        claimed = [c.high for c in evidence.claims if c.quantity == "power_w" and c.high]
        watts = max(measured, default=None) or next(iter(claimed), None)
        if watts and entry.illuminance and entry.comparable:
            drawn.append(Drawn(entry.name, watts, entry.illuminance, not measured))
    reference = next((e.name for e in comparison.entries if e.key == comparison.reference), "")
    return watt_hints(drawn, reference)


def _watt_row(entries: Sequence[Entry], hints: Sequence[WattHint]) -> tuple[TableRow, ...]:
    by_name = {hint.drawn.name: hint for hint in hints}
    if len(by_name) < 2:
        return ()

    def cell(entry: Entry) -> Cell:
        hint = by_name.get(entry.name)
        if hint is None:
            return Cell("watts not known", quiet=True)
        whose = "claimed" if hint.drawn.claimed else "read"
        return Cell(
            f"{notation.stops(hint.expected_stops)} stops, {notation.plain(hint.drawn.watts, 0)} W {whose}",
            marked=hint.odd,
            quiet=not hint.odd,
        )

    return (TableRow("a hint: by watts alone", tuple(cell(entry) for entry in entries)),)


def _ratio_cell(entry: Entry, comparison: Comparison) -> Cell:
    if entry.key == comparison.reference:
        return Cell("reference", quiet=True)
    if entry.ratio is None or entry.ratio_stops is None:
        return Cell(entry.why_not or "not comparable" if entry.readings else notation.NONE, marked=bool(entry.readings))
    if entry.tie:
        return Cell(f"a tie ({notation.stops(entry.ratio_stops)} ±{entry.ratio_tolerance_stops:.2f})")
    return Cell(
        f"{notation.stops(entry.ratio_stops)} ±{entry.ratio_tolerance_stops:.2f}"
        f" stop{'' if abs(entry.ratio_stops) < 1 else 's'} · {notation.times(entry.ratio)}× ·"
        f" {notation.percent(100.0 * entry.ratio)}\N{NO-BREAK SPACE}%"
    )


def _white_cell(entry: Entry, meters: Mapping[str, Meter]) -> Cell:
    if entry.cct_k is None:
        figure = entry.colour[0].figure("cct") if entry.colour else None
        return Cell(figure.text if figure is not None else notation.NONE, quiet=figure is None)
    if entry.white is None:
        return Cell(f"{notation.kelvin(entry.cct_k)} K, its own")
    error = entry.white
    meter = meters.get(entry.colour[0].reading.meter_id or "") if entry.colour else None
    marked = error.certain and abs(error.mired) > max(MARKED_MIRED, white_tolerance_mired(entry.cct_k, meter))
    return Cell(f"{notation.kelvin(entry.cct_k)} K  {notation.number(error.mired, 1, signed=True)} mired", marked)


def _tint_cell(entry: Entry) -> Cell:
    duv = entry.figures.get("duv")
    if duv is None:
        return Cell(entry.texts.get("duv", notation.NONE), quiet="duv" not in entry.texts)
    off = off_reference(duv, entry.cct_k) if entry.cct_k is not None else duv
    return Cell(notation.duv(duv), marked=abs(off) > MARKED_DUV)


def _scores_cell(entry: Entry, first: str, second: str) -> Cell:
    a, b = _figure_cell(entry, first), _figure_cell(entry, second)
    value = entry.figures.get(first)
    low = first == "ra" and value is not None and value < MARKED_RA
    return Cell(f"{a.text} · {b.text}", marked=low, quiet=a.quiet and b.quiet)


def _lowest_cell(entrant: Entrant, comparison: Comparison) -> Cell:
    series = against_dimmer([entrant], comparison, "stops")[0]
    if len(set(series.levels_pct)) < 2:
        return Cell("not measured", quiet=True)
    level, value = min(zip(series.levels_pct, series.values, strict=True))
    asked = stops(level / max(series.levels_pct))
    text = f"{notation.percent(level)} % gives {notation.stops(value)} stops"
    return Cell(text, marked=value - float(asked) > 1.0)


def _readings_text(entry: Entry) -> str:
    if not entry.readings:
        return "none at these terms"
    when = max(m.reading.at for m in entry.readings)
    return f"{len(entry.readings)}, {when:%-d %b %Y}"


def feature_table(witness: Witness, entrants: Sequence[Entrant], collection: Collection) -> tuple[TableRow, ...]:
    """What is known of each lamp beside its light: modes, claims, power, noise, price with all that it needs."""
    known = {e.key: (witness.evidence(e), witness.findings(e)) for e in entrants}

    def row(name: str, text: Callable[[Entrant], str]) -> TableRow:
        cells = [text(e) for e in entrants]
        return TableRow(name, tuple(Cell(t or notation.NONE, quiet=not t) for t in cells))

    def claimed(entrant: Entrant, quantity: str) -> str:
        return next(
            (
                f"{c.text} {c.unit}".strip() if c.unit.lower() not in c.text.lower() else c.text
                for c in known[entrant.key][0].claims
                if c.quantity == quantity
            ),
            "",
        )

    def found(entrant: Entrant, name: str) -> str:
        return next((f.sentence for f in known[entrant.key][1] if f.name == name), "")

    def price(entrant: Entrant) -> str:
        costs = known[entrant.key][0].costs
        return " + ".join(f"{c.what} {notation.plain(c.amount, 2)} {c.currency}" for c in costs)

    return (
        row("kind", lambda e: e.kind),
        row(
            "control",
            lambda e: (
                ", ".join(sorted({m.terms.mode for m in e.readings if m.terms.mode != "fixed"})) or "nothing to dial"
            ),
        ),
        row("white claimed", lambda e: claimed(e, "cct")),
        row("power claimed", lambda e: claimed(e, "power_w")),
        row("power drawn", lambda e: found(e, "most power") or found(e, "power") or found(e, "apparent power")),
        row("run time", lambda e: found(e, "run time")),
        row("noise", lambda e: found(e, "sound level")),
        row("supplied by", lambda e: collection.sources[e.source_id].supplied_by),
        row("goes back by", lambda e: notation.day(by) if (by := collection.sources[e.source_id].return_by) else ""),
        row("notes", lambda e: collection.sources[e.source_id].notes),
        row("price, all it needs", price),
    )


_EFFECTS: Mapping[str, Callable[[float], str]] = {
    "level": lambda ratio: f"{notation.times(ratio)}×, {notation.stops(float(stops(ratio)))} stops",
    "white": lambda shift: f"{notation.number(shift, 1, signed=True)} mired",
    "tint": lambda shift: f"Duv {notation.duv(shift)}",
    "beam": lambda wider: f"beam {notation.number(wider, 0, signed=True)}°",
}
"""How the effects of what sits on a lamp are written."""


def modifier_table(witness: Witness, entrants: Sequence[Entrant]) -> tuple[TableRow, ...]:
    """Every configuration against the barest one, white by white: level in x and stops, and the shift of the white."""
    by_row: dict[str, dict[str, list[str]]] = {}
    for entrant in entrants:
        evidence = witness.evidence(entrant)
        for finding in (*modifiers.matrix(evidence), *modifiers.beam_spread(evidence)):
            name, _, what = finding.name.rpartition(", ")
            if what not in _EFFECTS or finding.value is None:
                continue
            shown = _EFFECTS[what](finding.value)
            by_row.setdefault(f"{name}, {finding.terms}", {}).setdefault(entrant.key, []).append(shown)
    return tuple(
        TableRow(
            name,
            tuple(Cell(", ".join(cells.get(e.key, [])) or notation.NONE, quiet=e.key not in cells) for e in entrants),
        )
        for name, cells in by_row.items()
    )

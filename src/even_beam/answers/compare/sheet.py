"""The figures that belong to a question of Compare: a row a lamp, a column a figure, each with what it sorts by."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from even_beam.answers.compare.pictures import Scene, currency_of, priced
from even_beam.answers.compare.questions import Ask
from even_beam.answers.findings.witness import Witness
from even_beam.bench import terms_in_words
from even_beam.bench.records import Meter
from even_beam.bench.ssi_reference import ssi_reference
from even_beam.bench.watts import Drawn, WattHint, watt_hints
from even_beam.collection.collection import Collection
from even_beam.desk.kit.lamp_line import GEAR
from even_beam.known.choice import Entrant, along
from even_beam.known.comparison import Comparison, Entry
from even_beam.known.dimmer_series import against_dimmer
from even_beam.known.evidence import mean_of
from even_beam.known.findings.colour import SAMPLES, sample_scores
from even_beam.known.findings.electrical import watts_of
from even_beam.known.findings.tint import off_reference
from even_beam.known.in_words import white_tolerance_mired
from even_beam.light.photometry import stops
from even_beam.shell.sheet import NOTHING, Cell, Sheet
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES, score_names

MARKED_MIRED = 6.5
"""About 200 K at 5600 K: a white further off than this is marked, where the meter can tell."""
MARKED_DUV = 0.005
MARKED_RA = 90.0


@dataclass(frozen=True, eq=False, slots=True)
class Figures:
    """What a sheet is made of."""

    scene: Scene
    meters: Mapping[str, Meter]
    witness: Witness
    collection: Collection
    unit: str

    @property
    def comparison(self) -> Comparison:
        """What is compared."""
        return self.scene.comparison

    @property
    def reference(self) -> str:
        """The name of the lamp that the others are set against."""
        entry = self.comparison.entry(self.comparison.reference)
        return entry.name if entry is not None else ""


Column = tuple[str, Callable[[Entry], Cell]]


def sheet_of(ask: Ask, figures: Figures) -> Sheet:
    """The sheet of a question; columns that no lamp has a figure for are left out."""
    columns = _COLUMNS[ask](figures) if ask in _COLUMNS else []
    entries = figures.comparison.entries
    cells = [[make(entry) for _, make in columns] for entry in entries]
    rows = tuple(
        (entry.key, figures.scene.places.get(entry.name), tuple(own)) for entry, own in zip(entries, cells, strict=True)
    )
    return Sheet(tuple(name for name, _ in columns), rows).filled


def _name(entry: Entry) -> Cell:
    return Cell(entry.name, by=entry.name.casefold())


def _on_it(entry: Entry) -> Cell:
    if entry.first is None:
        return Cell("nothing read at these terms", quiet=True)
    parts = [terms_in_words.configuration(entry.first.terms), terms_in_words.zoom(entry.first.terms)]
    return Cell(", ".join(part for part in parts if part), quiet=True)


def _readings(entry: Entry) -> Cell:
    if not entry.readings:
        return NOTHING
    when = max(m.reading.at for m in entry.readings)
    return Cell(f"{len(entry.readings)}, {when:%-d %b %Y}", quiet=True, by=float(len(entry.readings)))


# --- How bright?


def _bright(figures: Figures) -> list[Column]:
    comparison, unit = figures.comparison, notation.light_unit()
    where = _where(comparison)
    by_key = {entrant.key: entrant for entrant in figures.scene.entrants}
    columns: list[Column] = [
        ("lamp", _name),
        ("on it", _on_it),
        (f"{unit} {where}".strip(), lambda e: _level(e, figures.unit)),
        ("read", _as_read),
        (f"stops from {figures.reference}", lambda e: _ratio(e, comparison)),
        ("±", lambda e: Cell(f"{half:.2f}", quiet=True, by=half) if (half := e.ratio_tolerance_stops) else NOTHING),
        ("×", lambda e: Cell(notation.times(e.ratio), by=e.ratio) if e.ratio is not None and not e.tie else NOTHING),
        ("lowest level read", lambda e: _lowest(by_key[e.key], comparison)),
    ]
    columns += [
        (f"{unit} at {notation.distance(metres)}", lambda e, m=metres: _at_distance(by_key[e.key], e, m))  # type: ignore[misc]
        for metres in _distances(figures)
    ]
    return [*columns, ("readings", _readings)]


def _where(comparison: Comparison) -> str:
    """Where levels stand; nothing where nobody stated it."""
    if comparison.distance_m is not None:
        return f"at {notation.distance(comparison.distance_m)}"
    equal = any(e.first is not None and e.first.terms.placement == "equal" for e in comparison.entries)
    return "at equal distance" if equal else ""


def _level(entry: Entry, unit: str) -> Cell:
    if entry.ratios_only:
        return Cell("ratios only")
    if entry.level is not None and entry.level.value is None and entry.rests_on:
        figure = entry.rests_on[0].figure("illuminance")
        return Cell(figure.text) if figure is not None else NOTHING
    if entry.in_f_stops and (exposed := entry.rests_on[0].value("f_stop")) is not None:
        return Cell(notation.f_stop(exposed), by=exposed)
    return Cell(notation.level_alone(entry.illuminance), quiet=entry.illuminance is None, by=entry.illuminance)


def _as_read(entry: Entry) -> Cell:
    """What stood on the meter, where it was brought."""
    if entry.as_read is None or entry.ratios_only or entry.how is None:
        return NOTHING
    at = f" at {notation.distance(entry.read_at_m)}" if entry.read_at_m is not None else ""
    return Cell(f"{notation.illuminance(entry.as_read)}{at}", quiet=True, by=entry.as_read)


def _ratio(entry: Entry, comparison: Comparison) -> Cell:
    if entry.key == comparison.reference:
        return Cell("reference", quiet=True, by=0.0)
    if entry.ratio is None or entry.ratio_stops is None:
        return Cell(entry.why_not or "not comparable", marked=True) if entry.readings else NOTHING
    text = notation.stops(entry.ratio_stops)
    return Cell(f"a tie ({text})" if entry.tie else text, by=entry.ratio_stops)


def _lowest(entrant: Entrant, comparison: Comparison) -> Cell:
    series = against_dimmer([entrant], comparison, "stops")[0]
    if len(set(series.levels_pct)) < 2:
        return NOTHING
    level, value = min(zip(series.levels_pct, series.values, strict=True))
    asked = stops(level / max(series.levels_pct))
    text = f"{notation.percent(level)} % gives {notation.stops(value)} stops"
    return Cell(text, marked=value - float(asked) > 1.0, by=value)


MOST_DISTANCES = 6


def _distances(figures: Figures) -> list[float]:
    """The distances that more than one lamp was read at beside the common one, the nearest first."""
    counts: dict[float, int] = {}
    for entrant in figures.scene.entrants:
        entry = figures.comparison.entry(entrant.key)
        if entry is not None and entry.first is not None:
            for metres in {m.terms.distance_m for m in along(entrant.readings, entry.first, "distance")}:
                if metres is not None and metres != figures.comparison.distance_m:
                    counts[metres] = counts.get(metres, 0) + 1
    return sorted(metres for metres, count in counts.items() if count > 1)[:MOST_DISTANCES]


def _at_distance(entrant: Entrant, entry: Entry, metres: float) -> Cell:
    if entry.first is None or entry.ratios_only:
        return NOTHING
    own = [m for m in along(entrant.readings, entry.first, "distance") if m.terms.distance_m == metres]
    mean = mean_of(own, "illuminance")
    if mean is None:
        return NOTHING
    return Cell(notation.level_alone(mean), by=mean)


def watts_of_lamps(comparison: Comparison, witness: Witness, entrants: Sequence[Entrant]) -> tuple[WattHint, ...]:
    """What the watts of lamps would promise: as read, else as claimed; of lamps whose levels may be compared. Nothing
    of parts of a lamp, which share its watts."""
    by_id = {entrant.key: entrant for entrant in entrants}
    if any(entrant.part for entrant in entrants):
        return ()
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


# --- beyond the reference

CONTROLLED = ("ra", "r9")
"""The scores that are set against the reference's, beside level, white and tint."""


def _points(size: float) -> str:
    return notation.number(size, 0, signed=True)


_BEYOND: Mapping[str, Callable[[float], str]] = {
    "cct": lambda size: notation.number(size, 1, signed=True),
    "duv": notation.duv,
}


def _beyond(entry: Entry, name: str, comparison: Comparison) -> Cell:
    """How far a figure lies beyond the reference's, or that this cannot be told; whites only where one is dialled."""
    if entry.key == comparison.reference:
        others = any(name in e.beyond for e in comparison.entries)
        return Cell("reference", quiet=True, by=0.0) if others else NOTHING
    base, found = comparison.entry(comparison.reference), entry.beyond.get(name)
    if found is None or found.value is None or base is None or not _same_dial(entry, base):
        return NOTHING
    said = _BEYOND.get(name, _points)(found.value)
    told = abs(found.value) > found.tells
    return Cell(said if told else f"a tie ({said})", quiet=not told, by=found.value)


def _same_dial(entry: Entry, base: Entry) -> bool:
    """Whether both lamps were asked for one white, or one of them has none to ask for."""
    asked = {e.first.terms.cct_k for e in (entry, base) if e.first is not None} - {None}
    return len(asked) < 2


# --- Which white?


def _white(figures: Figures) -> list[Column]:
    def dialled(entry: Entry) -> Cell:
        white = entry.first.terms.cct_k if entry.first is not None else None
        return Cell(f"{notation.dialled(white)} K", by=white) if white is not None else Cell("its own", quiet=True)

    return [
        ("lamp", _name),
        ("on it", _on_it),
        ("dialled", dialled),
        ("gives", _kelvin),
        ("off, mired", lambda e: _error(e, figures.meters)),
        ("± mired", _error_half),
        (f"mired from {figures.reference}", lambda e: _beyond(e, "cct", figures.comparison)),
        ("tint, Duv", lambda e: _figure(e, "duv", notation.duv)),
        (f"Duv from {figures.reference}", lambda e: _beyond(e, "duv", figures.comparison)),
        ("off its own curve", _off_curve),
        ("tint, CC", lambda e: _figure(e, "cc", lambda v: notation.number(v, 1, signed=True))),
        ("hue", lambda e: _figure(e, "hue", notation.score)),
        ("saturation", lambda e: _figure(e, "saturation", notation.score)),
        ("readings", _readings),
    ]


def _kelvin(entry: Entry) -> Cell:
    if entry.cct_k is None:
        figure = entry.colour[0].figure("cct") if entry.colour else None
        return Cell(figure.text) if figure is not None else NOTHING
    return Cell(f"{notation.white(entry.cct_k)} K", by=entry.cct_k)


def _error(entry: Entry, meters: Mapping[str, Meter]) -> Cell:
    if entry.white is None or entry.cct_k is None:
        return NOTHING
    meter = meters.get(entry.colour[0].reading.meter_id or "") if entry.colour else None
    limit = max(MARKED_MIRED, white_tolerance_mired(entry.cct_k, meter))
    marked = entry.white.certain and abs(entry.white.mired) > limit
    return Cell(notation.number(entry.white.mired, 1, signed=True), marked, by=entry.white.mired)


def _error_half(entry: Entry) -> Cell:
    if entry.white is None:
        return NOTHING
    return Cell(notation.number(entry.white.tolerance_mired, 1), quiet=True, by=entry.white.tolerance_mired)


def _off_curve(entry: Entry) -> Cell:
    """The tint off the daylight curve where the white is daylight, else off the Planckian."""
    duv = entry.figures.get("duv")
    if duv is None or entry.cct_k is None:
        return NOTHING
    off = float(off_reference(duv, entry.cct_k))
    return Cell(notation.duv(off), marked=abs(off) > MARKED_DUV, by=off)


# --- Which colours?


def _colours(figures: Figures) -> list[Column]:
    columns: list[Column] = [("lamp", _name), ("on it", _on_it)]
    for name in score_names():
        if name != "ssi":
            columns.append((QUANTITIES[name].label, lambda e, n=name: _score(e, n)))  # type: ignore[misc]
        if name in CONTROLLED:
            label = f"{QUANTITIES[name].label} from {figures.reference}"
            columns.append((label, lambda e, n=name: _beyond(e, n, figures.comparison)))  # type: ignore[misc]
    return [*columns, ("SSI", _ssi), ("weakest", _weakest), ("readings", _readings)]


def _figure(entry: Entry, name: str, say: Callable[[float], str]) -> Cell:
    """A figure, or the bound that was typed of it."""
    if name in entry.texts:
        return Cell(entry.texts[name])
    value = entry.figures.get(name)
    return Cell(say(value), by=value) if value is not None else NOTHING


def _score(entry: Entry, name: str) -> Cell:
    cell = _figure(entry, name, notation.score)
    return replace(cell, marked=name == "ra" and isinstance(cell.by, float) and cell.by < MARKED_RA)


def _ssi(entry: Entry) -> Cell:
    """SSI with the reference that it is against."""
    cell = _score(entry, "ssi")
    return cell if cell.text == NOTHING.text else replace(cell, text=f"{cell.text} {ssi_reference(entry.colour)}")


def _weakest(entry: Entry) -> Cell:
    scores = next((own for m in (*entry.readings, *entry.colour) if (own := sample_scores(m))), {})
    if len(scores) < len(SAMPLES):  # of a few nobody knows which is the weakest
        return NOTHING
    number = min(scores, key=lambda i: scores[i])
    return Cell(f"R{number} {notation.score(scores[number])}", by=scores[number])


# --- Worth it?


def _worth(figures: Figures) -> list[Column]:
    known = {p.name: p for p in priced(figures.scene)}
    currency = currency_of(figures.scene.collection, figures.scene.entrants)
    by_key = {entrant.key: entrant for entrant in figures.scene.entrants}
    witness, sources = figures.witness, figures.collection.sources

    def told(text: str) -> Cell:
        return Cell(text) if text else NOTHING

    def claimed(entry: Entry, quantity: str) -> Cell:
        claims = witness.evidence(by_key[entry.key]).claims
        own = next((c for c in claims if c.quantity == quantity), None)
        return told(
            "" if own is None else f"{own.text} {own.unit}" if own.unit.lower() not in own.text.lower() else own.text
        )

    def found(entry: Entry, *names: str) -> Cell:
        findings = witness.findings(by_key[entry.key])
        return told(next((f.words for name in names for f in findings if f.name == name), ""))

    def control(entry: Entry) -> Cell:
        entrant = by_key[entry.key]
        every = [m.terms for m in entrant.readings]
        modes = sorted({t.mode for t in every if t.cct_k is not None or t.mode not in {"CCT", "fixed"}})
        if modes:
            return Cell(", ".join(modes))
        is_fixed = not entrant.is_fixture or any(t.mode == "fixed" for t in every)
        return Cell("nothing to dial") if is_fixed else NOTHING  # nobody said what was dialled

    def source(entry: Entry, of: Callable[[str], str]) -> Cell:
        return told(of(by_key[entry.key].source_id))

    def candela(entry: Entry, per_price: bool) -> Cell:
        one = known.get(entry.name)
        value = None if one is None else one.candela_per_price if per_price else one.candela
        return Cell(notation.number(float(f"{value:.3g}"), 1 if per_price else 0), by=value) if value else NOTHING

    def price(entry: Entry) -> Cell:
        one = known.get(entry.name)
        return NOTHING if one is None else Cell(notation.plain(one.price, 2), by=one.price)

    gear = {key: {row.name: row.text for row in witness.evidence(one).gear} for key, one in by_key.items()}
    names = dict.fromkeys([n for n in GEAR if any(n in rows for rows in gear.values())])
    names |= dict.fromkeys(name for rows in gear.values() for name in rows)

    def column(name: str) -> Column:
        return name, lambda e: told(gear[e.key].get(name, ""))

    return [
        ("lamp", _name),
        (f"price, {currency}" if currency else "price", price),
        ("for", lambda e: told(known[e.name].includes if e.name in known else "")),
        ("cd", lambda e: candela(e, per_price=False)),
        (f"cd per {currency}", lambda e: candela(e, per_price=True)),
        ("Ra", lambda e: _score(e, "ra")),
        ("kind", lambda e: told(by_key[e.key].kind)),
        ("modes read", control),
        ("white claimed", lambda e: claimed(e, "cct")),
        ("power claimed", lambda e: claimed(e, "power_w")),
        ("power drawn", lambda e: found(e, "most power", "power", "apparent power")),
        ("run time", lambda e: found(e, "run time")),
        ("noise", lambda e: found(e, "sound level")),
        ("supplied by", lambda e: source(e, lambda i: sources[i].supplied_by)),
        ("goes back by", lambda e: source(e, lambda i: notation.day(by) if (by := sources[i].return_by) else "")),
        *(column(name) for name in names),
        ("notes", lambda e: source(e, lambda i: sources[i].notes)),
    ]


_COLUMNS: Mapping[Ask, Callable[[Figures], list[Column]]] = {
    Ask.BRIGHT: _bright,
    Ask.WHITE: _white,
    Ask.COLOURS: _colours,
    Ask.WORTH: _worth,
}

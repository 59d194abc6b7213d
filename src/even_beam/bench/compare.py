"""Lamps on even terms: what is equal, what differs, what physics brings to common terms, and what may be said."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

import numpy as np

from even_beam.bench import notation, words
from even_beam.bench.measured import Measured
from even_beam.bench.records import Meter, Terms
from even_beam.light.photometry import at_distance, stops

LAW_HOLDS_STOPS = 0.1
"""A walk follows the inverse-square law when its marks agree within this."""


LEAST_WALK = 3
"""So many distances make a walk."""


@dataclass(frozen=True, eq=False, slots=True)
class Entrant:
    """One lamp in a comparison with the readings that count; a `part` of them when it stands there more than once."""

    source_id: str
    name: str
    kind: str
    readings: tuple[Measured, ...]
    part: str = ""

    @property
    def key(self) -> str:
        """What tells it from the others in a comparison."""
        return key_of(self.source_id, self.part)


def key_of(source_id: str, part: str) -> str:
    """The key of a part of a source's readings."""
    return f"{source_id} {part}" if part else source_id


class Split(StrEnum):
    """What stands side by side in a comparison."""

    LAMPS = "lamps"
    CONFIGURATIONS = "what sits on each lamp"
    SESSIONS = "each lamp's sessions"


def part_of(reading: Measured, by: Split) -> str:
    """To which part of a lamp's readings one belongs."""
    if by is Split.CONFIGURATIONS:
        return " + ".join(reading.terms.configuration) or "bare"
    return reading.reading.session_id if by is Split.SESSIONS else ""


def parted(entrant: Entrant, by: Split, names: Mapping[str, str]) -> list[Entrant]:
    """A lamp as one entrant a configuration or a session, in the order first read; `names` are those of sessions."""
    if by is Split.LAMPS:
        return [entrant]
    parts: dict[str, list[Measured]] = {}
    for reading in entrant.readings:
        parts.setdefault(part_of(reading, by), []).append(reading)
    return [
        replace(entrant, name=f"{entrant.name}, {names.get(part, part)}", readings=tuple(readings), part=part)
        for part, readings in parts.items()
    ]


@dataclass(frozen=True, slots=True)
class At:
    """The terms of a comparison. None for `cct_k` means each lamp's own fixed white; `distance_m` is the common one."""

    cct_k: float | None
    level_pct: float | None
    configuration: Mapping[str, tuple[str, ...]]
    distance_m: float | None = None

    def holds(self, key: str, terms: Terms, *, any_level: bool = False) -> bool:
        """Whether a reading of this entrant was taken at these terms, distance apart. A fixed white enters anywhere."""
        return (
            (terms.mode == "fixed" or terms.cct_k == self.cct_k)
            and (any_level or terms.level_pct == self.level_pct)
            and terms.configuration == self.configuration.get(key, ())
            and terms.angle_deg == 0.0
        )


class Evenness(StrEnum):
    """How a term stands between the lamps compared."""

    SAME = "same"
    BROUGHT = "brought to common terms"
    DIFFERS = "differs"
    UNKNOWN = "not known"


@dataclass(frozen=True, slots=True)
class TermNote:
    """One term of the even-terms line."""

    evenness: Evenness
    text: str


@dataclass(frozen=True, slots=True)
class Entry:
    """What one lamp gave at the terms: medians over its repeats, and the readings they came from.

    `ratios_only`: its meter is not good for absolutes; `illuminance` then only serves ratios and is not to be shown.
    """

    key: str
    name: str
    readings: tuple[Measured, ...]
    illuminance: float | None
    as_read: float | None
    read_at_m: float | None
    ratio: float | None
    ratio_stops: float | None
    ratio_tolerance_stops: float | None
    comparable: bool
    white: words.WhiteError | None
    cct_k: float | None
    figures: Mapping[str, float]
    ratios_only: bool = False

    @property
    def tie(self) -> bool:
        """Whether the difference in level is below what the meter can tell."""
        return (
            self.ratio_stops is not None
            and self.ratio_tolerance_stops is not None
            and abs(self.ratio_stops) <= self.ratio_tolerance_stops
        )


@dataclass(frozen=True, slots=True)
class Comparison:
    """The result: the even-terms line, an entry a lamp (the reference first named), and what may be published."""

    at: At
    reference: str
    notes: tuple[TermNote, ...]
    entries: tuple[Entry, ...]
    sentences: tuple[str, ...]


FIGURES = ("duv", "ra", "r9", "rf", "rg", "ssi", "tlci")


def whites(entrants: Sequence[Entrant]) -> tuple[float, ...]:
    """The whites that were dialled, those of most lamps first."""
    count: dict[float, int] = {}
    for entrant in entrants:
        for white in {r.terms.cct_k for r in entrant.readings if r.terms.cct_k is not None}:
            count[white] = count.get(white, 0) + 1
    return tuple(sorted(count, key=lambda white: (-count[white], -white)))


def levels(entrants: Sequence[Entrant]) -> tuple[float, ...]:
    """The levels that were read, highest first."""
    found = {r.terms.level_pct for e in entrants for r in e.readings if r.terms.level_pct is not None}
    return tuple(sorted(found, reverse=True))


def configurations(entrant: Entrant) -> tuple[tuple[str, ...], ...]:
    """The configurations that were read, the most frequent first."""
    count: dict[tuple[str, ...], int] = {}
    for reading in entrant.readings:
        count[reading.terms.configuration] = count.get(reading.terms.configuration, 0) + 1
    return tuple(sorted(count, key=lambda c: (-count[c], len(c))))


def default_terms(entrants: Sequence[Entrant]) -> At:
    """Terms that most lamps share: their commonest white, full level, each in its commonest configuration."""
    found, read = whites(entrants), levels(entrants)
    shared = {e.key: next(iter(configurations(e)), ()) for e in entrants}
    return At(found[0] if found else None, 100.0 if 100.0 in read else (read[0] if read else None), shared)


def at_terms(entrant: Entrant, at: At, *, any_level: bool = False) -> tuple[Measured, ...]:
    """The readings of a lamp at the terms, at the one distance with most readings."""
    held = [r for r in entrant.readings if at.holds(entrant.key, r.terms, any_level=any_level)]
    by_distance: dict[float | None, list[Measured]] = {}
    for reading in held:
        by_distance.setdefault(reading.terms.distance_m, []).append(reading)
    best = max(by_distance.values(), key=lambda group: (any(r.terms.distance_m == at.distance_m for r in group), len(group)), default=[])  # fmt: skip
    return tuple(best)


def needed(readings: Sequence[Measured], key: str, at: At) -> list[Measured]:
    """The readings whose figures a comparison at these terms rests on: at any level, and those of a distance walk."""
    distinct = {reading.terms for reading in readings}
    walks: dict[Terms, set[float]] = {}
    for terms in distinct:
        if terms.distance_m:
            walks.setdefault(_but_distance(terms), set()).add(terms.distance_m)
    asked = {
        terms for terms in distinct
        if at.holds(key, terms, any_level=True) or len(walks.get(_but_distance(terms), ())) >= LEAST_WALK
    }  # fmt: skip
    return [reading for reading in readings if reading.terms in asked]


def _but_distance(terms: Terms) -> Terms:
    return replace(terms, distance_m=None)


def median(readings: Sequence[Measured], quantity: str) -> float | None:
    """The median of a quantity over readings that have it."""
    values = [value for r in readings if (value := r.value(quantity)) is not None]
    return float(np.median(values)) if values else None


def compare(entrants: Sequence[Entrant], at: At, reference: str, meters: Mapping[str, Meter]) -> Comparison:
    """Compare lamps at the terms; `reference` is the key of the entrant that the others are set against."""
    held = {e.key: at_terms(e, at) for e in entrants}
    common = at.distance_m or _common_distance(held.get(reference, ()), held.values())
    at = replace(at, distance_m=common)
    base = _level_at(held.get(reference, ()), common)
    entries = tuple(_entry(e, held[e.key], held.get(reference, ()), base, common, meters) for e in entrants)
    notes = tuple(_notes(entrants, held, at, meters))
    return Comparison(at, reference, notes, entries, tuple(_sentences(entries, reference, at)))


def _common_distance(reference: Sequence[Measured], all_held: object) -> float | None:
    return next((r.terms.distance_m for r in reference if r.terms.distance_m), None)


def _level_at(readings: Sequence[Measured], distance: float | None) -> float | None:
    level = median(readings, "illuminance")
    if level is None:
        return None
    read_at = readings[0].terms.distance_m
    if distance is None or read_at is None or read_at == distance:
        return level
    return float(at_distance(level, read_at, distance))


def _entry(
    entrant: Entrant,
    readings: tuple[Measured, ...],
    reference: Sequence[Measured],
    base: float | None,
    common: float | None,
    meters: Mapping[str, Meter],
) -> Entry:
    level = _level_at(readings, common)
    comparable = (
        level is not None and base is not None and _same_placement(readings, reference) and _may_be_set_against(readings, reference, meters)
    )  # fmt: skip
    ratio = level / base if comparable and level and base else None
    cct = median(readings, "cct")
    asked = readings[0].terms.cct_k if readings else None
    meter = meters.get(readings[0].reading.meter_id or "") if readings else None
    figures = {name: value for name in FIGURES if (value := median(readings, name)) is not None}
    return Entry(
        key=entrant.key,
        name=entrant.name,
        readings=readings,
        illuminance=level,
        as_read=median(readings, "illuminance"),
        read_at_m=readings[0].terms.distance_m if readings else None,
        ratio=ratio,
        ratio_stops=float(stops(ratio)) if ratio else None,
        ratio_tolerance_stops=_ratio_tolerance(readings, reference, meters),
        comparable=comparable,
        white=words.white_error(cct, asked, meter) if cct and asked else None,
        cct_k=cct,
        figures=figures,
        ratios_only=meter is not None and meter.for_ratios_only,
    )


def _may_be_set_against(ours: Sequence[Measured], theirs: Sequence[Measured], meters: Mapping[str, Meter]) -> bool:
    """A meter that is good for ratios only makes them with itself alone."""
    used = [meters.get(readings[0].reading.meter_id or "") for readings in (ours, theirs)]
    limited = any(meter is not None and meter.for_ratios_only for meter in used)
    return not limited or used[0] == used[1]


def _same_placement(readings: Sequence[Measured], reference: Sequence[Measured]) -> bool:
    """Comparable when both distances are known, or both were equal though not measured."""
    if not readings or not reference:
        return False
    ours, theirs = readings[0].terms, reference[0].terms
    if ours.distance_m is not None and theirs.distance_m is not None:
        return True
    return ours.distance_m is None and theirs.distance_m is None and ours.placement == theirs.placement == "equal"


def _ratio_tolerance(
    readings: Sequence[Measured], reference: Sequence[Measured], meters: Mapping[str, Meter]
) -> float | None:
    """95 % uncertainty of a ratio in stops: the small one for the same meter, both calibrations for two meters."""
    if not readings or not reference:
        return None
    ours = meters.get(readings[0].reading.meter_id or "")
    theirs = meters.get(reference[0].reading.meter_id or "")
    if ours is None or theirs is None:
        return 0.2
    if ours.id == theirs.id:
        relative = float(np.hypot(ours.ratio_tolerance, theirs.ratio_tolerance))
    else:
        relative = float(np.hypot(ours.level_tolerance, theirs.level_tolerance))
    return float(np.log2(1.0 + relative))


def _notes(
    entrants: Sequence[Entrant], held: Mapping[str, tuple[Measured, ...]], at: At, meters: Mapping[str, Meter]
) -> list[TermNote]:
    read = [(e, held[e.key]) for e in entrants if held[e.key]]
    notes = [TermNote(Evenness.UNKNOWN, f"{e.name}: nothing read at these terms") for e in entrants if not held[e.key]]  # fmt: skip
    if not read:
        return notes
    notes += _white_note(read, at)
    for label, of in (
        ("level", lambda r: notation.level(r.terms)),
        ("configuration", lambda r: notation.configuration(r.terms)),
        ("zoom", lambda r: r.terms.zoom),
        ("axis", lambda r: notation.axis(r.terms)),
        ("meter", lambda r: _meter_name(r, meters)),
    ):
        notes += _plain_note(label, {e.name: of(readings[0]) for e, readings in read})
    notes += _distance_note(read, at)
    used = {r[0].reading.meter_id or "": None for _, r in read}
    notes += [_ratio_note(meter) for i in used if (meter := meters.get(i)) is not None and meter.for_ratios_only]
    order = list(Evenness)
    same = [note.text for note in notes if note.evenness is Evenness.SAME and note.text]
    rest = sorted((n for n in notes if n.evenness is not Evenness.SAME), key=lambda n: order.index(n.evenness))
    return [TermNote(Evenness.SAME, ", ".join(same)), *rest] if same else rest


def _ratio_note(meter: Meter) -> TermNote:
    zeroed = f", zeroed on {meter.zeroed_on}" if meter.zeroed_on else ""
    return TermNote(Evenness.UNKNOWN, f"{meter.nickname} is for ratios only{zeroed}")


def _meter_name(reading: Measured, meters: Mapping[str, Meter]) -> str:
    meter = meters.get(reading.reading.meter_id or "")
    return meter.nickname if meter is not None else "unknown meter"


def _plain_note(label: str, by_lamp: Mapping[str, str]) -> list[TermNote]:
    values = set(by_lamp.values())
    if values == {""}:
        return []
    if len(values) == 1:
        return [TermNote(Evenness.SAME, values.pop())]
    return [TermNote(Evenness.DIFFERS, f"{label}: " + ", ".join(name if value and name.endswith(value) else f"{name} {value or 'none'}" for name, value in by_lamp.items()))]  # fmt: skip


def _white_note(read: Sequence[tuple[Entrant, tuple[Measured, ...]]], at: At) -> list[TermNote]:
    fixed = [e.name for e, readings in read if readings[0].terms.mode == "fixed"]
    if at.cct_k is None or len(fixed) == len(read):
        return [TermNote(Evenness.SAME, "each at its own white")]
    if not fixed:
        return [TermNote(Evenness.SAME, f"{notation.dialled(at.cct_k)} K dialled")]
    return [TermNote(Evenness.DIFFERS, f"white: {', '.join(fixed)} cannot be dialled")]


def _distance_note(read: Sequence[tuple[Entrant, tuple[Measured, ...]]], at: At) -> list[TermNote]:
    distances = {e.name: readings[0].terms.distance_m for e, readings in read}
    unknown = [name for name, value in distances.items() if value is None]
    if len(unknown) == len(distances):
        equal = all(readings[0].terms.placement == "equal" for _, readings in read)
        text = "equal distance, not measured: ratios only" if equal else "distance not known: levels cannot be compared"
        return [TermNote(Evenness.SAME if equal else Evenness.UNKNOWN, text)]
    notes = [TermNote(Evenness.UNKNOWN, f"distance of {', '.join(unknown)} not known")] if unknown else []
    if at.distance_m is None:
        return notes
    target = notation.distance(at.distance_m)
    moved = [(e, d) for e, _ in read if (d := distances[e.name]) is not None and d != at.distance_m]
    if not moved and not unknown:
        return [TermNote(Evenness.SAME, target)]
    for entrant, distance in moved:
        notes.append(
            TermNote(
                Evenness.BROUGHT,
                f"{entrant.name} brought from {notation.distance(distance)} to {target} ({_law(entrant)})",
            )
        )
    return notes


def _law(entrant: Entrant) -> str:
    """Whether this lamp's own walk bears the inverse-square law out."""
    groups: dict[Terms, dict[float, list[float]]] = {}
    for reading in entrant.readings:
        level, distance = reading.value("illuminance"), reading.terms.distance_m
        if level and distance:
            groups.setdefault(_but_distance(reading.terms), {}).setdefault(distance, []).append(level)
    walks = [group for group in groups.values() if len(group) >= LEAST_WALK]
    if not walks:
        return "by the inverse-square law, no walk read"
    walk = max(walks, key=len)
    intensity = np.array([np.log2(np.median(v) * d**2) for d, v in walk.items()])
    spread = float(np.max(np.abs(intensity - np.median(intensity))))
    span = f"{notation.distance(min(walk))} to {notation.distance(max(walk))}"
    if spread <= LAW_HOLDS_STOPS:
        return f"walk {span}, the law holds within {spread:.2f} stop"
    return f"walk {span} strays {spread:.2f} stop from the law"


def _sentences(entries: Sequence[Entry], reference: str, at: At) -> list[str]:
    """What may be published: numbers, terms, and a tie where the meter cannot tell."""
    base = next((e for e in entries if e.key == reference), None)
    if base is None or base.illuminance is None:
        return []
    return [
        _sentence(entry, base, at)
        for entry in entries
        if entry.key != reference and entry.ratio is not None and entry.ratio_stops is not None
    ]


def _sentence(entry: Entry, base: Entry, at: At) -> str:
    where = f"at {notation.distance(at.distance_m)}" if at.distance_m is not None else "at equal distance"
    fixed = any(e.readings[0].terms.mode == "fixed" for e in (entry, base))
    white = "" if at.cct_k is None or fixed else f", {notation.dialled(at.cct_k)} K dialled"
    level = f", {notation.percent(at.level_pct)} %" if at.level_pct is not None else ""
    ours, theirs = _named(entry, at, fixed), _named(base, at, fixed)
    size = abs(entry.ratio_stops or 0.0)
    if entry.tie:
        tolerance = notation.number(entry.ratio_tolerance_stops, 2)
        return f"{ours} and {theirs} are level {where}{white}{level}: they differ by less than the {tolerance} stop that these readings can tell."  # fmt: skip
    ratio = 2.0**size
    direction = "brighter" if (entry.ratio or 1.0) > 1.0 else "darker"
    unit = "stop" if size < 1.0 else "stops"
    return f"{ours} is {size:.2f} {unit} ({ratio:.2f}×) {direction} than {theirs} {where}{white}{level}."


def _named(entry: Entry, at: At, fixed: bool) -> str:
    """A lamp with what sits on it, and its white where the two whites are not dialled alike."""
    terms = entry.readings[0].terms
    parts = [f"with {notation.configuration(terms)}" if terms.configuration else "bare"]
    if entry.name.endswith(f", {part_of(entry.readings[0], Split.CONFIGURATIONS)}"):
        parts = []  # its name says so already
    if fixed:
        parts.append("at its own white" if terms.mode == "fixed" else f"at {notation.white(terms)}")
    return f"{entry.name} ({', '.join(parts)})" if parts else entry.name


# --- Series for the pictures


@dataclass(frozen=True, slots=True)
class Series:
    """One lamp's values against dimmer setting, with the readings behind each point."""

    key: str
    name: str
    levels_pct: tuple[float, ...]
    values: tuple[float, ...]
    reading_ids: tuple[str, ...]


def against_dimmer(entrants: Sequence[Entrant], at: At, quantity: str) -> tuple[Series, ...]:
    """A quantity against dimmer setting, one point a reading.

    `stops` is output relative to each lamp's own full level, `mired` the error against the white dialled; any
    other name is the figure itself.
    """
    return tuple(_series(entrant, at, quantity) for entrant in entrants)


def _series(entrant: Entrant, at: At, quantity: str) -> Series:
    readings = [r for r in at_terms(entrant, at, any_level=True) if r.terms.level_pct]
    top = max((r.terms.level_pct or 0.0 for r in readings), default=0.0)
    full = median([r for r in readings if r.terms.level_pct == top], "illuminance")
    points = []
    for reading in sorted(readings, key=lambda r: (r.terms.level_pct or 0.0, r.reading.sequence)):
        value = _series_value(reading, quantity, full)
        if value is not None:
            points.append((reading.terms.level_pct or 0.0, value, reading.reading.id))
    return Series(
        entrant.key, entrant.name, tuple(p[0] for p in points), tuple(p[1] for p in points), tuple(p[2] for p in points)
    )  # fmt: skip


def _series_value(reading: Measured, quantity: str, full: float | None) -> float | None:
    if quantity == "stops":
        level = reading.value("illuminance")
        return float(stops(level / full)) if level and full else None
    if quantity == "mired":
        cct, asked = reading.value("cct"), reading.terms.cct_k
        return 1e6 / cct - 1e6 / asked if cct and asked else None
    return reading.value(quantity)

"""Sections on a lamp's light: output, distance, dimming, and what sits on it."""

from collections.abc import Callable, Mapping, Sequence

from even_beam.answers.compare.questions import Ask
from even_beam.bench import terms
from even_beam.bench.measured import Measured
from even_beam.handing_over.material import Material
from even_beam.handing_over.sections.rows import (
    NOTHING,
    charts_named,
    filled,
    found_named,
    numbers_of,
    of_findings,
    place_of,
    said_of,
    table_of,
)
from even_beam.known.choice import Entrant
from even_beam.known.findings.finding import Finding
from even_beam.paper.document import Cell, Section, Table
from even_beam.words import notation


def output(material: Material, entrant: Entrant) -> Section:
    """How bright, at each set of terms at full level."""
    _, said = of_findings(material, entrant, ("exposure", "focus range", "light lost", "pop to pop"), "output")
    levels = [f for f in found_named(material, entrant, "illuminance") if f.value is not None]
    candela = {f.readings: f for f in found_named(material, entrant, "candela")}
    columns: list[tuple[str, Callable[[Finding], Cell]]] = [
        ("at", lambda f: Cell(f.terms)),
        (notation.light_unit(), lambda f: Cell(notation.level_alone(f.value))),
        (
            "±",
            lambda f: (
                Cell(f"{notation.half(100.0 * (f.uncertainty or 0.0) / (f.value or 1.0))} %")
                if _is_wide(f)
                else NOTHING
            ),
        ),
        ("cd", lambda f: _candela(candela.get(f.readings))),
    ]
    table = table_of(columns, levels, [f.readings for f in levels])
    return Section("output", "Output", said, (table,) if table is not None else ())


def _is_wide(finding: Finding) -> bool:
    return bool(finding.uncertainty and finding.value)


def _candela(finding: Finding | None) -> Cell:
    return NOTHING if finding is None else Cell(notation.significant(finding.value, 3))


def walk(material: Material, entrant: Entrant) -> Section:
    """Level against distance, and the law it follows."""
    along = [f for f in material.witness.findings(entrant) if f.question == "output" and "distance" in f.axis]
    if not along:
        return Section("distance", "Distance")
    said = said_of(material, entrant, along)
    walks = []
    for group in terms.grouped(material.witness.evidence(entrant).lit, "distance").values():
        marks = {m.terms.distance_m for m in group if m.terms.distance_m}
        if len(marks) > 1:
            walks.append(sorted((m for m in group if m.terms.distance_m), key=lambda m: m.terms.distance_m or 0.0))
    rows = [m for one in walks for m in one] if len(walks) > 1 else []  # of one the marks stand by themselves
    columns: list[tuple[str, Callable[[Measured], Cell]]] = [
        ("at", lambda m: Cell(material.witness.evidence(entrant).at(m, "distance"))),
        ("distance", lambda m: Cell(notation.distance(m.terms.distance_m))),
        (notation.light_unit(), lambda m: Cell(notation.illuminance(m.value("illuminance")))),
        ("E·d², cd", lambda m: Cell(notation.significant(_candela_of(m)))),
    ]
    table = table_of(columns, rows, [(m.reading.id,) for m in rows])
    charts = charts_named(material, entrant, Ask.BRIGHT, "distance")
    return Section("distance", "Distance", said, (table,) if table is not None else (), charts)


def _candela_of(measured: Measured) -> float:
    return (measured.value("illuminance") or 0.0) * (measured.terms.distance_m or 0.0) ** 2


def dimming(material: Material, entrant: Entrant) -> Section:
    """Every step of the dimmer that was read: light, white and tint beside what was dialled."""
    found, said = of_findings(material, entrant, (), "dimming")
    drifts = {f.terms: f for f in found if f.name == "white drift with level"}
    laws = [f for f in found if f.name == "exponent of the dimmer" and f.series]
    tables = [
        _steps_table([(_head(place_of(material, entrant, law)), _steps(law, drifts.get(law.terms))) for law in own])
        for own in (laws[at : at + MOST_BESIDE] for at in range(0, len(laws), MOST_BESIDE))
    ]
    return Section("dimming", "Dimming", said if not laws else (), tuple(t for t in tables if t is not None))


def _head(place: str) -> str:
    """Terms over a column: 3200 K, 19 Nov 2026."""
    return place.removeprefix("at ").removeprefix("on ").partition(", ")[0]


MOST_BESIDE = 3
"""So many series of steps stand side by side."""

Step = tuple[float, float, float, float | None, float | None]
"""Dialled and light in percent of full, stops, mired and Duv where they were read."""

_FIGURES: Mapping[str, Callable[[Step], Cell]] = {
    "light": lambda step: Cell(f"{notation.percent(step[1])} %"),
    "stops": lambda step: Cell(notation.stops(step[2])),
    "mired": lambda step: NOTHING if step[3] is None else Cell(notation.number(step[3], 1)),
    "Duv": lambda step: NOTHING if step[4] is None else Cell(notation.duv(step[4])),
}


def _steps_table(series: Sequence[tuple[str, Sequence[Step]]]) -> Table | None:
    """Steps of a dimmer by what was dialled, each series below the terms that are its own; several side by side have
    stops alone, which say what percent say."""
    shown = [name for name in _FIGURES if name != "light" or len(series) == 1]
    by_dial = [{step[0]: step for step in steps} for _, steps in series]
    dials = sorted({dial for own in by_dial for dial in own}, reverse=True)
    heads = [f"{place}: {name}" if place else name for place, _ in series for name in shown]
    rows = [
        (
            Cell(f"{notation.percent(dial)} %"),
            *(_FIGURES[name](own[dial]) if dial in own else NOTHING for own in by_dial for name in shown),
        )
        for dial in dials
    ]
    return filled(["dialled", *heads], rows)


def _steps(law: Finding, drift: Finding | None) -> list[Step]:
    """The steps of a dimmer from the highest down."""
    moved: dict[float, tuple[float | None, float | None]] = {}
    if drift is not None:
        whites = zip(numbers_of(drift, "mired"), numbers_of(drift, "duv"), strict=True)
        moved = dict(zip(numbers_of(drift, "dial_pct"), whites, strict=True))
    steps = zip(*(numbers_of(law, name) for name in ("dial_pct", "output_pct", "stops")), strict=True)
    return [(dial, light, stops, *moved.get(dial, (None, None))) for dial, light, stops in sorted(steps, reverse=True)]


def beam(material: Material, entrant: Entrant) -> Section:
    """Across the beam: angles, evenness, colour at the edge, flux, and the section itself."""
    names = ("loss off", "evenness", "beam angle", "field angle", "lumens", "colour at the edge")
    _, said = of_findings(material, entrant, names)
    charts = charts_named(material, entrant, Ask.BRIGHT, "beam")
    return Section("beam", "Beam", said, charts=charts if said else ())


def modifiers(material: Material, entrant: Entrant) -> Section:
    """What each modifier does to level, white, tint and beam."""
    found, said = of_findings(material, entrant, (), "modifiers")
    rows: dict[tuple[str, str], dict[str, Finding]] = {}
    for one in found:
        name, _, what = one.name.rpartition(", ")
        if what in _EFFECTS:
            rows.setdefault((name, one.terms), {})[what] = one
    columns: list[tuple[str, Callable[..., Cell]]] = [
        ("on it", lambda r: Cell(r[0][0])),
        ("at", lambda r: Cell(r[0][1], quiet=True)),
        *((head, lambda r, w=what, s=say: _effect(r[1].get(w), s)) for what, (head, say) in _EFFECTS.items()),
    ]
    behind = [tuple(dict.fromkeys(i for f in own.values() for i in f.readings)) for own in rows.values()]
    table = table_of(columns, list(rows.items()), behind)
    told_in_rows = {finding.words for own in rows.values() for finding in own.values()}
    rest = tuple(one for one in said if not any(one.text.startswith(words) for words in told_in_rows))
    return Section("modifiers", "What sits on it", rest, (table,) if table is not None else ())


_EFFECTS: Mapping[str, tuple[str, Callable[[float], str]]] = {
    "level": ("light, ×", notation.times),
    "white": ("white, mired", lambda v: notation.number(v, 1, signed=True)),
    "tint": ("tint, Duv", notation.duv),
    "beam": ("beam, °", lambda v: notation.number(v, 0, signed=True)),
}


def _effect(finding: Finding | None, say: Callable[[float], str]) -> Cell:
    return NOTHING if finding is None or finding.value is None else Cell(say(finding.value))

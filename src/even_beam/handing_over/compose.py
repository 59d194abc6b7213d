"""A report composed: the sections of its kind as they are arranged, what is silent named, every reading numbered."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from pathlib import Path

import even_beam
from even_beam.handing_over.arrangement import Arrangement, usual_arrangement
from even_beam.handing_over.kinds import GAPS, PLANS, READINGS, Kind
from even_beam.handing_over.material import Material
from even_beam.handing_over.sections.about import ABOUT, gaps, reading_lines
from even_beam.handing_over.sections.lamp import BY_LAMP
from even_beam.handing_over.sections.side_by_side import TOGETHER
from even_beam.known.choice import Entrant
from even_beam.paper import page
from even_beam.paper.document import Chapter, Document, Section
from even_beam.words import notation

FOOTNOTES = (
    "How to read it. Off: measured less dialled white; positive is warmer. Duv from the Planckian locus, positive is"
    " green; a tint is judged against the daylight curve from 5000 K up, in a blend between 4000 and 5000 K. Ra is the"
    " mean of R1 to R8. *SSI against the reference of the lamp's own colour temperature: Planckian below 4000 K, CIE"
    " daylight from there on. A figure is the mean of the readings named in brackets, and holds for its terms alone.",
)

Pause = Callable[[], None]


_ON_ALL = {**TOGETHER, **ABOUT}


def title_of_section(key: str) -> str:
    """What a section is called where sections are arranged."""
    known = {**BY_LAMP, **_ON_ALL}
    return known[key][0] if key in known else {GAPS: "what was not measured", READINGS: "every reading"}[key]


def composed(
    material: Material, kind: Kind, arrangement: Arrangement | None = None, pause: Pause = lambda: None
) -> Document:
    """The report of a kind; `pause` is called between sections and may raise to end it."""
    plan, arranged = PLANS[kind], arrangement or usual_arrangement(kind)
    silent: dict[str, list[str]] = {}

    def built(
        group: Sequence[str], known: Mapping[str, tuple[str, Callable[..., Section]]], *of: object, lamp: str = ""
    ) -> tuple[Section, ...]:
        found = []
        for key in group:
            pause()
            name, build = known[key]
            section = replace(build(*of), own=arranged.own.get(key, ""))
            if section.empty:
                silent.setdefault(name, []).append(lamp)
            else:
                found.append(section)
        return tuple(found)

    chapters: list[Chapter] = []
    several = len(material.entrants) > 1
    if plan.by_lamp:
        if together := built(arranged.applied(plan.together), _ON_ALL, material):
            chapters.append(Chapter("", together))
        for entrant in material.entrants:
            if own := built(arranged.applied(plan.by_lamp), BY_LAMP, material, entrant, lamp=entrant.name):
                title, line = entrant.name if several else "", _line_of(material, entrant)
                chapters.append(Chapter(title, own, line, fresh_page=plan.pages and bool(chapters)))
    before, closing = _parted(arranged.applied(plan.closing), GAPS)
    last = [*built(before, _ON_ALL, material)]
    after = built(closing[1:], _ON_ALL, material)
    if closing:  # what is silent is known when all others are built
        own_words = arranged.own.get(GAPS, "")
        last.append(replace(gaps(material, _unread(silent, len(material.entrants))), own=own_words))
    chapters.append(Chapter("About these readings" if several and plan.by_lamp else "", (*last, *after)))
    session = material.session if not material.fixtures else None
    return Document(
        title=_title(material),
        line=_line(material, kind),
        chapters=tuple(chapters),
        question=session.question if session is not None else "",
        decision=session.decision if session is not None else "",
        alerts=_alerts(material),
        footnotes=() if "meters" in plan.about else FOOTNOTES,
        readings=reading_lines(material) if arranged.applied((READINGS,)) else (),
        dense=kind is Kind.LAMP,
        paper=material.settings.paper,
        version=even_beam.__version__,
    )


def _parted(keys: tuple[str, ...], at: str) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """What stands before a key, and what from it on."""
    place = keys.index(at) if at in keys else len(keys)
    return keys[:place], keys[place:]


def _unread(silent: Mapping[str, Sequence[str]], count: int) -> list[str]:
    """The sections that have nothing to say, with the lamps of which they have nothing where they have of others."""
    return [
        name if len(lamps) == count or lamps == [""] else f"{name} of {notation.listed(lamps)}"
        for name, lamps in silent.items()
        if name not in _NEVER_MISSED
    ]


_NEVER_MISSED = {"doubts", "eye and ear", "pictures"}
"""What nobody misses in a report that has none."""


def _title(material: Material) -> str:
    if material.session is not None and not material.fixtures:
        return material.session.name
    names = [entrant.name for entrant in material.entrants] or ["No readings"]
    return ", ".join(names) if len(names) <= 4 else f"{len(names)} lamps"


def _line(material: Material, kind: Kind) -> str:
    if kind is Kind.LAMP and len(material.entrants) == 1:
        return _line_of_page(material, material.entrants[0])
    readings = material.readings
    out = sum(not m.state.counts for m in readings)
    parts = [_days(material), material.settings.publisher, PLANS[kind].words]
    count = f"{len(readings)} reading{'s' * (len(readings) != 1)}"
    parts.append(f"{count}; {out} {'does' if out == 1 else 'do'} not count" if out else count)
    return " · ".join(part for part in parts if part)


def _days(material: Material) -> str:
    """When it was read: 17 November 2026, or from the first day to the last."""
    dates = sorted({m.reading.at.date() for m in material.readings})
    return " to ".join(f"{day:%-d %B %Y}" for day in dict.fromkeys((dates[0], dates[-1]))) if dates else ""


def _line_of_page(material: Material, entrant: Entrant) -> str:
    """Under the name of a lamp: what it is, when it was tested, who tested and who lent it."""
    supplied = material.collection.sources[entrant.source_id].supplied_by
    tested = f"tested {_days(material)}" if material.readings else ""
    parts = [notation.sentence(entrant.kind), tested, material.settings.publisher, supplied]
    return " · ".join(part for part in parts if part)


def _line_of(material: Material, entrant: Entrant) -> str:
    source = material.collection.sources[entrant.source_id]
    parts = [entrant.kind, source.supplied_by]
    count = len(entrant.readings)
    parts.append(notation.count(count, "reading"))
    return " · ".join(part for part in parts if part)


def _alerts(material: Material) -> tuple[str, ...]:
    """What must be seen before any figure."""
    played = material.simulated
    if not played:
        return ()
    every = "All" if played == len(material.readings) else f"{played} of {len(material.readings)}"
    return (f"{every} readings are simulated: a program played the lamps. They say nothing of any real lamp.",)


def write_report(
    material: Material,
    kind: Kind,
    path: Path,
    arrangement: Arrangement | None = None,
    pause: Pause = lambda: None,
    *,
    over_others: bool = False,
) -> None:
    """The report as HTML or, by the file's suffix, PDF. Raises `ReportError` and `OutputError`."""
    page.write(composed(material, kind, arrangement, pause), path, over_others=over_others)

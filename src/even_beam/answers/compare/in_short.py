"""Lamps against each other in a few sentences: which is brightest, whose white and tint are off, and what to dial."""

from collections.abc import Mapping, Sequence

from even_beam.answers.compare.pictures import Scene
from even_beam.answers.findings.glance import Glance
from even_beam.bench.estimate import Estimate, picked
from even_beam.known.comparison import Comparison, Entry, Evenness
from even_beam.known.findings.tint import off_reference
from even_beam.known.in_words import tint_side
from even_beam.words import notation

Sentence = tuple[str, tuple[str, ...]]
"""A sentence and the readings it rests on."""

MOST_NAMED = 3
"""So many lamps are named in a sentence; of more it says how many."""


def alike_of(comparison: Comparison) -> list[tuple[str, str]]:
    """What is alike for all, what was reckoned, what is not alike and what is not known: a heading and a text each."""
    together: dict[str, list[str]] = {}
    for note in comparison.notes:
        together.setdefault(_ALIKE[note.evenness], []).append(notation.sentence(note.text))
    return [(heading, f"{'. '.join(texts)}.") for heading, texts in together.items()]


_ALIKE: Mapping[Evenness, str] = {
    Evenness.SAME: "Alike for all",
    Evenness.BROUGHT: "Reckoned",
    Evenness.DIFFERS: "Not alike",
    Evenness.UNKNOWN: "Not known",
}


def in_short(scene: Scene, glances: Sequence[Glance]) -> list[Sentence]:
    """What a reader wants to know first; nothing of what cannot be told."""
    found = [_brightest(scene), *_whites(scene, glances), _tints(scene), _doubtful(scene)]
    return [one for one in found if one is not None]


def _doubtful(scene: Scene) -> Sentence | None:
    """Whose figures rest on what is in doubt, or on one of two evenings that disagree; the box below says on what."""
    own = [e for e in scene.comparison.entries if e.doubtful]
    if not own:
        return None
    named = _names(own) if len(own) <= MOST_NAMED else f"{len(own)} of {len(scene.comparison.entries)} lamps"
    behind = tuple(m.reading.id for e in own for m in e.readings)
    return f"Read {named} once more: what stands here of {'it' if len(own) == 1 else 'them'} is in doubt.", behind


def _brightest(scene: Scene) -> Sentence | None:
    """The brightest, told from the second by what it takes to pick the best of so many; else those that share it."""
    lit = [e for e in scene.comparison.entries if e.level is not None and e.level.value is not None and e.comparable]
    if len(lit) < 2:
        return None
    lit.sort(key=lambda e: -(e.level.value or 0.0) if e.level is not None else 0.0)
    top = [e for e in lit if not _told_apart(lit[0], e, len(lit))]
    behind = tuple(m.reading.id for e in lit[: len(top) + 1] for m in e.rests_on)
    if len(top) == len(lit):
        return "No lamp is brighter than the others, as far as these readings can tell.", behind
    if len(top) > MOST_NAMED:
        return f"Of {len(lit)} lamps {len(top)} share the most light.", behind
    if len(top) > 1:
        return f"{_names(top)} are the brightest: these readings cannot tell them apart.", behind
    ahead = lit[0].level.less(lit[1].level) if lit[0].level and lit[1].level else Estimate(0.0)
    return f"{lit[0].name} is the brightest, by {notation.stops_told(ahead.value or 0.0, ahead.half_width)}.", behind


def _told_apart(one: Entry, other: Entry, count: int) -> bool:
    if one is other or one.level is None or other.level is None:
        return False
    apart = one.level.less(other.level)
    return abs(apart.value or 0.0) > picked(count) * apart.half_width


def _names(entries: Sequence[Entry]) -> str:
    return notation.listed([e.name for e in entries])


def _whites(scene: Scene, glances: Sequence[Glance]) -> list[Sentence]:
    """The lamps that miss the white they are dialled to, each side in a sentence, with what to dial where that was
    read."""
    dials = {i: row.dial for glance in glances for row in glance.whites for i in row.readings}
    found: list[Sentence] = []
    for side, sign in (("cool", -1.0), ("warm", 1.0)):
        off = [e for e in scene.comparison.entries if e.white and e.white.certain and e.white.mired * sign > 0.0]
        if not off:
            continue
        off.sort(key=lambda e: -abs(e.white.mired) if e.white is not None else 0.0)
        behind = tuple(m.reading.id for e in off for m in e.colour)
        if len(off) > MOST_NAMED:
            found.append((f"Of {len(scene.comparison.entries)} lamps {len(off)} come out {side}.", behind))
            continue
        said = f"{_names(off)} {'comes' if len(off) == 1 else 'come'} out {side}"
        asked = [(e.name, next((dials[m.reading.id] for m in e.colour if m.reading.id in dials), "")) for e in off]
        to_dial = [(name, dial) for name, dial in asked if dial not in {"", "leave"}]
        instead = notation.listed([f"{dial}{f' on {name}' * (len(off) > 1)}" for name, dial in to_dial])
        found.append((f"{said}{f': dial {instead}' if to_dial else ''}.", behind))
    return found


def _tints(scene: Scene) -> Sentence | None:
    """Whose tint can be seen where it is compared, green and magenta."""
    sides: dict[str, list[Entry]] = {"green": [], "magenta": []}
    for entry in scene.comparison.entries:
        duv = entry.figures.get("duv")
        off = off_reference(duv, entry.cct_k) if duv is not None and entry.cct_k is not None else 0.0
        if abs(off) > entry.half_widths.get("duv", 0.0):
            sides[tint_side(off)].append(entry)
    every = len(scene.comparison.entries)
    said = [
        f"{_names(own) if len(own) <= MOST_NAMED else f'of {every} lamps {len(own)}'}"
        f" {'leans' if len(own) == 1 else 'lean'} {side}"
        for side, own in sides.items()
        if own
    ]
    behind = tuple(m.reading.id for own in sides.values() for e in own for m in e.colour)
    return (f"{notation.sentence('; '.join(said))}.", behind) if said else None

"""The answer to a question in one to three lines: what it comes to, and quietly how far it can be told."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from even_beam.answers.compare.judged import Judged
from even_beam.answers.compare.pictures import Scene, priced, priced_otherwise
from even_beam.answers.compare.questions import Ask
from even_beam.bench.records import Meter
from even_beam.known.comparison import Comparison, Entry
from even_beam.known.findings.colour import WEAK, sample_scores
from even_beam.known.findings.tint import off_reference
from even_beam.known.in_words import tint_side, tint_tolerance, white_side
from even_beam.known.value import diminishing
from even_beam.light.cri_samples import SAMPLE_WORDS
from even_beam.shell.line import Line
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES, Use, score_names

MOST_LINES = 3


@dataclass(frozen=True, eq=False, slots=True)
class Told:
    """What lines are made of; `judged` where lamps are judged for a purpose."""

    scene: Scene
    meters: Mapping[str, Meter]
    judged: Judged | None = None


def lines_of(ask: Ask, told: Told, most: int = MOST_LINES) -> tuple[Line, ...]:
    """The answer, in so many lines at most."""
    lines = _SAID[ask](told)
    left = len(lines) - most
    if left <= 0:
        return tuple(lines)
    *first, last = lines[:most]
    aside = "; ".join(part for part in (last.aside.rstrip("."), f"{left} more below") if part)
    return (*first, Line(last.text, aside))


def _names(entries: Sequence[Entry]) -> str:
    names = [entry.name for entry in entries]
    return " and ".join([", ".join(names[:-1]), names[-1]]) if len(names) > 1 else "".join(names)


# --- How bright?


def _bright(told: Told) -> list[Line]:
    comparison = told.scene.comparison
    base = comparison.entry(comparison.reference)
    others = [e for e in comparison.entries if e.ratio_stops is not None and e is not base]
    if base is None or not others:
        return _only_levels(comparison)
    apart = sorted((e for e in others if not e.tie), key=lambda e: -abs(e.ratio_stops or 0.0))
    ties = [e for e in others if e.tie]
    tied = [_tie_line(found, base) for level in (True, False) if (found := [e for e in ties if e.level_with is level])]
    place = max(0, min(len(apart), MOST_LINES - len(tied)))
    farthest = sorted(apart[:place], key=lambda e: -(e.ratio_stops or 0.0))  # the farthest, the brightest of them first
    lines = [_ratio_line(entry, base) for entry in (*farthest, *apart[place:])]
    return [*lines[:place], *tied, *lines[place:]]


def _tie_line(ties: Sequence[Entry], base: Entry) -> Line:
    """Lamps that are level, or that nothing tells apart."""
    half = max(e.ratio_tolerance_stops or 0.0 for e in ties)
    judged = f"{'is' if len(ties) == 1 else 'are'} level with" if ties[0].level_with else "cannot be told apart from"
    told = f"{notation.number(half, 2)} {notation.stop_word(half)}"
    return Line(
        f"{_names(ties)} {judged} {base.name}.", f"They differ by less than the {told} that these readings can tell."
    )


def _ratio_line(entry: Entry, base: Entry) -> Line:
    size = abs(entry.ratio_stops or 0.0)
    direction = "brighter" if (entry.ratio_stops or 0.0) > 0.0 else "darker"
    aside = [f"±{entry.ratio_tolerance_stops or 0.0:.2f}"]
    moved = [e for e in (entry, base) if e.how is not None and e.read_at_m is not None]
    if moved:
        who = "both" if len(moved) == 2 else moved[0].name
        places = dict.fromkeys(notation.distance(e.read_at_m or 0.0) for e in moved)
        aside.append(f"{who} brought from {' and '.join(places)}")
    aside += [f"{e.name} {e.joined}" for e in (entry, base) if e.joined]
    aside += [f"{e.name} rests on {e.doubtful}" for e in (entry, base) if e.doubtful]
    told = notation.stops_told(size, entry.ratio_tolerance_stops or 0.0)
    return Line(f"{entry.name} is {told} {direction} than {base.name}.", "; ".join(aside))


def _only_levels(comparison: Comparison) -> list[Line]:
    """Levels alone, where there is nothing to set them against."""
    lines = []
    for entry in comparison.entries:
        if entry.illuminance is not None:
            at = f" at {notation.distance(entry.at_m)}" if entry.at_m is not None else ""
            lines.append(Line(f"{entry.name} gives {notation.level(entry.illuminance)}{at}."))
    return lines


# --- Which white?


def _white(told: Told) -> list[Line]:
    entries = [e for e in told.scene.comparison.entries if e.cct_k is not None]
    lines = []
    off = sorted(
        (e for e in entries if e.white is not None and e.white.certain),
        key=lambda e: -abs(e.white.mired if e.white is not None else 0.0),
    )
    for entry in off:
        lines.append(_miss_line(entry))
    true = [e for e in entries if e.white is not None and not e.white.certain]
    if true:
        half = max(e.white.tolerance_mired for e in true if e.white is not None)
        dialled = {e.first.terms.cct_k for e in true if e.first is not None}
        white = f"{notation.dialled(dialled.pop() or 0.0)} K" if len(dialled) == 1 else "white"
        verb = "gives" if len(true) == 1 else "give"
        lines.append(
            Line(f"{_names(true)} {verb} the {white} that is dialled.", f"As far as can be told: ±{half:.0f} mired.")
        )
    own = [e for e in entries if e.white is None]
    if own:
        whites = ", ".join(f"{e.name} {notation.white(e.cct_k)} K" for e in own)
        whose = "Its" if len(own) == 1 else "Their"
        lines.append(Line(f"{whites}.", f"{whose} own white: nothing is dialled."))
    tinted = _tinted(entries, told.meters)
    if tinted:
        lines.insert(min(len(lines), MOST_LINES - 1), tinted)
    return lines


def _miss_line(entry: Entry) -> Line:
    error = entry.white
    if error is None or entry.cct_k is None or entry.first is None:
        raise ValueError(f"{entry.name} has no error of its white")
    side = white_side(error.mired)
    asked = notation.dialled(entry.first.terms.cct_k or 0.0)
    text = f"{entry.name} is {abs(error.mired):.0f} mired {side}: {notation.white(entry.cct_k)} K for {asked} K."
    return Line(text, f"±{error.tolerance_mired:.0f} mired")


def _tinted(entries: Sequence[Entry], meters: Mapping[str, Meter]) -> Line | None:
    """The lamps whose tint can be told, the strongest first."""
    found = []
    for entry in entries:
        duv = entry.figures.get("duv")
        if duv is not None and entry.cct_k is not None:
            meter = meters.get(entry.colour[0].reading.meter_id or "") if entry.colour else None
            off = float(off_reference(duv, entry.cct_k))
            if abs(off) > tint_tolerance(entry.cct_k, meter):
                found.append((off, entry.name))
    if not found:
        return None
    found.sort(key=lambda pair: -abs(pair[0]))
    words = [f"{name} leans {tint_side(off)} ({notation.duv(off)})" for off, name in found[:3]]
    return Line(f"{'; '.join(words)}.", "Duv off its curve")


# --- Which colours?


def _colours(told: Told) -> list[Line]:
    weak: list[tuple[float, Line]] = []
    sound: list[Entry] = []
    for entry in told.scene.comparison.entries:
        scores = next((own for m in (*entry.readings, *entry.colour) if (own := sample_scores(m))), {})
        if not scores:
            continue
        worst = min(scores, key=lambda i: scores[i])
        if len(scores) < len(SAMPLE_WORDS):
            weak.append((scores[worst], _partly_read(entry, scores)))
        elif scores[worst] < WEAK:
            text = f"{entry.name} is weakest in {SAMPLE_WORDS[worst]}: R{worst} {notation.score(scores[worst])}."
            weak.append(
                (scores[worst], Line(text, "Below zero: far from the reference." if scores[worst] < 0.0 else ""))
            )
        else:
            sound.append(entry)
    lines = [line for _, line in sorted(weak, key=lambda pair: pair[0])]
    if sound:
        verb = "renders" if len(sound) == 1 else "render"
        lines.insert(
            min(len(lines), MOST_LINES - 1),
            Line(f"{_names(sound)} {verb} every sample at {WEAK:.0f} or better.", "R1 to R15."),
        )
    return lines or _scores_alone(told)


def _partly_read(entry: Entry, scores: Mapping[int, float]) -> Line:
    """Of samples that were read one by one nothing is said of the others."""
    worst = min(scores, key=lambda i: scores[i])
    text = f"{entry.name}: R{worst} {notation.score(scores[worst])}, {SAMPLE_WORDS[worst]}."
    if len(scores) == 1:
        return Line(text, "No other sample was read.")
    return Line(text, f"The lowest of the {len(scores)} samples that were read.")


def _scores_alone(told: Told) -> list[Line]:
    """What is known without samples: the means that were typed."""
    lines = []
    for entry in told.scene.comparison.entries:
        said = [
            f"{QUANTITIES[name].label} {entry.texts.get(name) or notation.score(entry.figures.get(name))}"
            for name in score_names(Use.COMPARED)
            if name in entry.figures or name in entry.texts
        ]
        if said:
            lines.append(Line(f"{entry.name}: {', '.join(said)}.", "A mean alone does not say which colours."))
    return lines


# --- Good enough? Worth it?


def _enough(told: Told) -> list[Line]:
    return [Line(f"{lamp.name}: {lamp.word}.", lamp.why) for lamp in told.judged.lamps] if told.judged else []


def _worth(told: Told) -> list[Line]:
    known = [lamp for lamp in priced(told.scene) if lamp.candela_per_price is not None]
    if not known:
        return []
    best = max(known, key=lambda lamp: lamp.candela_per_price or 0.0)
    lines = [
        Line(
            f"{best.name} gives most light for its price:"
            f" {notation.number(best.candela_per_price, 1)} cd per {best.currency}.",
            f"{notation.plain(best.price, 2)} {best.currency}: {best.includes}.",
        )
    ]
    if others := priced_otherwise(told.scene):
        lines.append(Line("", f"Priced otherwise: {notation.listed(others)}. Nothing is converted."))
    knee = diminishing(known)
    if knee is not None:
        lines.append(Line(f"Beyond {knee.name} more money buys little light."))
    scored = [lamp for lamp in known if lamp.ra is not None]
    if len(scored) > 1:
        finest = max(scored, key=lambda lamp: lamp.ra or 0.0)
        lines.append(
            Line(
                f"{finest.name} has the highest Ra of them, {notation.score(finest.ra)}.",
                "A mean: 3 says which colours.",
            )
        )
    return lines


_SAID: Mapping[Ask, Callable[[Told], list[Line]]] = {
    Ask.BRIGHT: _bright,
    Ask.WHITE: _white,
    Ask.COLOURS: _colours,
    Ask.ENOUGH: _enough,
    Ask.WORTH: _worth,
}

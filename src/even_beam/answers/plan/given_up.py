"""What is not read because time is short, in words: a line a kind, with the time it saves and what is lost."""

from collections.abc import Sequence

from even_beam.bench.fields import BY_NAME, BY_STORED
from even_beam.bench.planning.run_sheet import GivenUp, Plan
from even_beam.bench.planning.shortening import CHECK, CONTROL, REPEAT
from even_beam.words import notation

_LOST = {
    REPEAT: "how far readings scatter is told less well",
    CHECK: "when the bench moved is told less closely",
    CONTROL: "nothing tells whether the bench held to the end",
    "distance_m": "the walk stands on fewer marks",
    "level_pct": "the dimmer's curve is drawn from fewer points",
    "cct_k": "whites in between are taken from their neighbours",
    "angle_deg": "the beam is drawn from fewer angles",
    "hue_deg": "hues in between are not known",
}

MOST_NAMED = 5
"""More values than these are counted instead of named."""


def given_up_words(plan: Plan, seconds: float, unit: str) -> tuple[str, ...]:
    """What was given up for a time, in the order in which it went; empty where there was time for all."""
    if not plan.given_up and plan.seconds <= seconds:
        return ()
    by_kind: dict[str, list[GivenUp]] = {}
    for one in plan.given_up:
        by_kind.setdefault(one.kind, []).append(one)
    lines = [f"Given up: {_what(kind, found, unit)}; lost: {_LOST[kind]}." for kind, found in by_kind.items()]
    if lines:
        lines[-1] += " G takes this back."
    if plan.seconds > seconds:
        needed, there_is = notation.working_time(plan.seconds), notation.working_time(seconds)
        lines.append(f"Even so it takes {needed}, not {there_is}: leave out a lamp or a question.")
    return tuple(lines)


def _what(kind: str, found: Sequence[GivenUp], unit: str) -> str:
    """What went, of how many steps, and the time that it saves."""
    steps = sum(one.steps for one in found)
    saved = notation.working_time(sum(one.seconds for one in found))
    if kind == REPEAT:
        left = notation.count(round(min(float(one.value) for one in found) - 1.0), "reading")
        return f"repeats beyond {left} a step ({saved})"
    if kind in {CHECK, CONTROL}:
        return f"{notation.count(steps, 'control')} {'in between' if kind == CHECK else 'at the end'} ({saved})"
    values = sorted((float(one.value) for one in found), reverse=True)
    named = notation.listed([_value(kind, value, unit) for value in values])
    what = named if len(values) <= MOST_NAMED else f"{len(values)} {_MANY[kind]}"
    return f"{what} ({notation.count(steps, 'step')}, {saved})"


_MANY = {"distance_m": "marks", "level_pct": "levels", "cct_k": "whites", "angle_deg": "angles", "hue_deg": "hues"}


def _value(kind: str, value: float, unit: str) -> str:
    return notation.distance(value, unit) if kind == "distance_m" else BY_NAME[BY_STORED[kind]].words(value)

"""Tolerance sets: the limits by which a verdict for a purpose is given. The shipped ones are `shipped.json`.

But for print viewing, whose limits name their standard, they are common practice, no source, and there to be edited.
"""

import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

from even_beam.bench.records import ToleranceSet
from even_beam.errors import TellableError
from even_beam.words.quantities import QUANTITIES, Use, score_names


class ToleranceError(TellableError, ValueError):
    """A tolerance set that cannot be understood; the message names the limit."""


@dataclass(frozen=True, slots=True)
class Limit:
    """What a limit bounds: its words, its unit, and whether a figure must stay below (`most`) or reach it (`least`)."""

    label: str
    unit: str
    most: bool


LIMITS: Mapping[str, Limit] = {
    "white_mired": Limit("white off", "mired", True),
    "white_kelvin": Limit("white off", "K", True),
    "white_k": Limit("the white asked", "K", True),
    "duv": Limit("tint", "Duv", True),
    "drift_mired": Limit("white drift while dimming", "mired", True),
    **{name: Limit(QUANTITIES[name].plain_label, "", False) for name in score_names(Use.LIMITED)},
    "r1_to_r8": Limit("lowest of R1-R8", "", False),
    "evenness_pct": Limit("evenness", "%", False),
    "level_lx_low": Limit("illuminance", "lx", False),
    "level_lx_high": Limit("illuminance", "lx", True),
    "unit_stops": Limit("level against the other unit", "stops", True),
    "ageing_stops": Limit("level since the first session", "stops", True),
}
"""Every limit that a set may have."""


def set_of(content: Mapping[str, Any]) -> ToleranceSet:
    """A tolerance set of its JSON content. Raises `ToleranceError`."""
    name, limits = content.get("name"), content.get("limits")
    if not isinstance(name, str) or not name.strip() or not isinstance(limits, Mapping) or not limits:
        raise ToleranceError("a tolerance set needs a “name” and “limits”")
    for limit, value in limits.items():
        if limit not in LIMITS:
            raise ToleranceError(f"“{name}”: there is no limit “{limit}”; there are {', '.join(LIMITS)}")
        if isinstance(value, bool) or not isinstance(value, int | float) or not 0.0 <= value < 1e6:
            raise ToleranceError(f"“{name}”: {limit} must be a number from 0 on")
    purpose = " · ".join(str(content[key]) for key in ("purpose", "source") if content.get(key))
    return ToleranceSet(f"shipped {name}", name.strip(), purpose, {k: float(v) for k, v in limits.items()})


def content_of(tolerances: ToleranceSet) -> dict[str, Any]:
    """A tolerance set as JSON content, to be exported."""
    return {"name": tolerances.name, "purpose": tolerances.purpose, "limits": dict(tolerances.limits)}


@cache
def shipped() -> tuple[ToleranceSet, ...]:
    """The sets that come with the program."""
    content = json.loads(files(__name__).joinpath("shipped.json").read_text(encoding="utf-8"))
    return tuple(set_of(entry) for entry in content["sets"])


def is_of_a_place(limits: Iterable[str]) -> bool:
    """Whether limits ask for a level at a place, as viewing prints does: no fault of a lamp that was not set up for
    it."""
    return any(limit.startswith("level_lx") for limit in limits)

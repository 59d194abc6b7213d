"""Protocols: named tests as data, that expand into terms to be read. The shipped set is `shipped.json`.

A protocol is a product of axes; an axis it does not name is left as the plan has it. Users write their own in the
same form (docs/file-format.md).
"""

import json
import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cache
from importlib.resources import files
from itertools import product
from typing import Any, get_type_hints

import numpy as np

from even_beam.bench.limits import impossible_term
from even_beam.bench.records import Terms
from even_beam.errors import TellableError
from even_beam.words.entry import EntryError, parse
from even_beam.words.quantities import Kind, of_kinds


class ProtocolError(TellableError, ValueError):
    """A protocol that cannot be understood; the message names the entry."""


MOST_WHITES, MOST_TERMS = 200, 20_000
"""No test has more."""


@dataclass(frozen=True, slots=True)
class Protocol:
    """A named test. Tuples are axes; empty ones are left to the plan. `answers` is what is lost without it.

    `spread_stops` is how far repeats may lie apart before a third is asked for; `again_after_min` reads a lamp from
    cold, at these minutes; `together` lights all lamps of the plan at once, `crosses` takes every axis that the plan
    states.
    """

    name: str
    answers: str
    mode: str = "CCT"
    whites_k: tuple[float, ...] = ()
    white_range_k: tuple[float, ...] = ()
    white_step_k: float = 0.0
    white_step_mired: float = 0.0
    levels_pct: tuple[float, ...] = ()
    distances: tuple[str, ...] = ()
    configurations: tuple[str, ...] = ()
    zooms: tuple[str, ...] = ()
    angles_deg: tuple[float, ...] = ()
    planes_deg: tuple[float, ...] = ()
    tints: tuple[str, ...] = ()
    hues_deg: tuple[float, ...] = ()
    saturation_pct: float | None = None
    again_after_min: tuple[float, ...] = ()
    repeats: int = 2
    spread_stops: float | None = None
    together: bool = False
    crosses: bool = False
    quantities: tuple[str, ...] = ()
    by_hand: bool = False
    cautions: tuple[str, ...] = ()

    @classmethod
    def from_content(cls, content: Mapping[str, Any]) -> "Protocol":
        """From plain values. Raises `ProtocolError` for an entry that is unknown or of the wrong kind."""
        if not isinstance(content, Mapping):
            raise ProtocolError(
                f"“{str(content)[:40]}” is not a protocol: it must be an object with “name” and “answers”"
            )
        kinds = get_type_hints(cls)
        called = str(content.get("name", "?"))[:60]
        strangers = [str(name)[:60] for name in content if name not in kinds]
        if strangers or not {"name", "answers"} <= set(content):
            what = f"unknown entry {', '.join(sorted(strangers))}" if strangers else "needs “name” and “answers”"
            raise ProtocolError(f"protocol “{called}”: {what}; known are {', '.join(kinds)}")
        made = cls(**{name: _of_kind(called, name, value, kinds[name]) for name, value in content.items()})
        for text in made.distances:
            _metres(made.name, text)
        made._check_terms()
        if not 1 <= made.repeats <= 100:
            raise ProtocolError(f"protocol “{made.name}”: repeats must be 1 to 100")
        if made.spread_stops is not None and not 0.0 < made.spread_stops <= 2.0:
            raise ProtocolError(f"protocol “{made.name}”: spread_stops must be above 0 and at most 2")
        if list(made.again_after_min) != sorted(made.again_after_min):
            raise ProtocolError(f"protocol “{made.name}”: again_after_min must rise")
        made.check_size()
        return made

    def check_size(self) -> None:
        """Raises `ProtocolError` for more whites, or more terms, than any evening has."""
        if len(self.white_range_k) == 2:
            low, high = self.white_range_k
            steps = (high - low) / (self.white_step_k or 500.0)
            if self.white_step_mired > 0.0:
                steps = (1e6 / low - 1e6 / high) / self.white_step_mired
            if not 0.0 <= steps <= MOST_WHITES:
                raise ProtocolError(f"protocol “{self.name}”: white_range_k must rise, in at most {MOST_WHITES} steps")
        axes = (
            self.levels_pct,
            self.distances,
            self.configurations,
            self.zooms,
            self.angles_deg,
            self.planes_deg,
            self.tints,
            self.hues_deg,
        )
        if math.prod(max(1, len(axis)) for axis in (*axes, self.whites)) > MOST_TERMS:
            raise ProtocolError(f"protocol “{self.name}”: more than {MOST_TERMS} terms are too many for a test")

    def _check_terms(self) -> None:
        """Raises `ProtocolError` for an axis with a term that cannot be."""
        axes = {
            "cct_k": (*self.whites_k, *self.white_range_k), "level_pct": self.levels_pct, "angle_deg": self.angles_deg,
            "turn_deg": self.planes_deg,
            "hue_deg": self.hues_deg, "saturation_pct": (self.saturation_pct,), "distance_m": self.distances_m,
        }  # fmt: skip
        for term, values in axes.items():
            for value in values:
                if (problem := impossible_term(term, value)) is not None:
                    raise ProtocolError(f"protocol “{self.name}”: {problem}")

    @property
    def whites(self) -> tuple[float, ...]:
        """The whites, a range written out in even steps of kelvin or of mired."""
        if len(self.white_range_k) != 2:
            return self.whites_k
        low, high = self.white_range_k
        if self.white_step_mired > 0.0:
            steps = np.arange(1e6 / high, 1e6 / low + 1e-6, self.white_step_mired)
            return tuple(float(round(1e6 / m / 10.0) * 10.0) for m in steps)
        step = self.white_step_k or 500.0
        return tuple(float(k) for k in np.arange(low, high + 1e-6, step))

    @property
    def is_of_the_lamp_alone(self) -> bool:
        """Whether what it reads is the same wherever the meter stands and whatever the beam is: power and flicker."""
        return bool(self.quantities) and of_kinds(Kind.ELECTRICAL, Kind.FLICKER).issuperset(self.quantities)

    @property
    def distances_m(self) -> tuple[float, ...]:
        """The distances in metres."""
        return tuple(_metres(self.name, text) for text in self.distances)


def _of_kind(called: str, name: str, value: Any, kind: Any) -> Any:
    """A value of the kind that an entry has, lists as tuples. Raises `ProtocolError`."""
    what = {tuple[float, ...]: "numbers", float: "numbers", float | None: "a number", int: "a whole number"}.get(kind)
    wanted = what or ("yes or no (true, false)" if kind is bool else "text")
    wrong = ProtocolError(f"protocol “{called}”: {name} must be {wanted}, not {str(value)[:40]}")
    if kind in {tuple[float, ...], tuple[str, ...]}:
        if not isinstance(value, list):
            raise wrong
        return tuple(_of_kind(called, name, item, float if kind == tuple[float, ...] else str) for item in value)
    if kind in {float, float | None}:
        if value is None and kind is not float:
            return None
        if isinstance(value, bool) or not isinstance(value, int | float) or not abs(value) < 1e9:
            raise wrong
        return float(value)
    if not isinstance(value, kind) or (kind is int and isinstance(value, bool)):
        raise wrong
    return value


def _metres(name: str, text: str) -> float:
    try:
        entry = parse(text, "distance")
    except EntryError as error:
        raise ProtocolError(f"protocol “{name}”: {error}") from error
    if entry.quantity != "distance" or not entry.value or entry.value <= 0.0:
        raise ProtocolError(f"protocol “{name}”: “{text}” is not a distance; write 3 m or 10 ft")
    return entry.value


@cache
def shipped() -> tuple[Protocol, ...]:
    """The protocols that come with the program."""
    content = json.loads(files(__name__).joinpath("shipped.json").read_text(encoding="utf-8"))
    return tuple(Protocol.from_content(entry) for entry in content["protocols"])


def protocols_of(content: Any) -> tuple[Protocol, ...]:
    """Protocols of a user's JSON content. Raises `ProtocolError`."""
    entries = content.get("protocols") if isinstance(content, dict) else None
    if not isinstance(entries, list):
        raise ProtocolError("expected an object with a list named “protocols”")
    return tuple(Protocol.from_content(entry) for entry in entries)


def expand(protocol: Protocol, base: Terms, configurations: tuple[tuple[str, ...], ...] = ()) -> tuple[Terms, ...]:
    """All terms that a protocol reads, around `base`, which gives what the protocol leaves open.

    `configurations` stand in for the protocol's own when it has that axis: only the plan knows what sits on a lamp.
    """
    fixed = protocol.mode == "fixed" or (base.mode == "fixed" and protocol.mode == "CCT")
    whites: tuple[float | None, ...] = (None,) if fixed else (protocol.whites or (base.cct_k,))
    placed = base.distance_m
    axes = product(
        (configurations or (base.configuration,))
        if protocol.configurations or protocol.crosses
        else (base.configuration,),
        protocol.distances_m or (placed,),
        _places(protocol, base),
        protocol.zooms or (base.zoom,),
        _hues(protocol, base),
        whites,
        protocol.tints or (base.tint,),
        protocol.levels_pct or (base.level_pct,),
    )
    return tuple(
        replace(
            base,
            mode="HSI" if hue is not None else "fixed" if fixed else protocol.mode,
            configuration=configuration,
            distance_m=distance,
            placement="on axis" if distance is not None else base.placement,
            angle_deg=angle,
            turn_deg=turn,
            zoom=zoom,
            hue_deg=hue,
            saturation_pct=_saturation(protocol) if hue is not None else None,
            cct_k=None if hue is not None else white,
            tint=tint,
            level_pct=level,
        )
        for configuration, distance, (angle, turn), zoom, hue, white, tint, level in axes
    )


def _hues(protocol: Protocol, base: Terms) -> tuple[float | None, ...]:
    """The hues; beside the whites where everything is crossed, and none of a lamp that has nothing to dial."""
    if protocol.crosses and base.mode == "fixed":
        return (base.hue_deg,)
    if protocol.crosses and protocol.hues_deg and protocol.whites:
        return (base.hue_deg, *protocol.hues_deg)
    return protocol.hues_deg or (base.hue_deg,)


def _saturation(protocol: Protocol) -> float | None:
    """What a hue is read at: full, where a protocol that crosses everything does not say."""
    return 100.0 if protocol.saturation_pct is None and protocol.crosses else protocol.saturation_pct


def _places(protocol: Protocol, base: Terms) -> tuple[tuple[float, float], ...]:
    """Each angle in each plane; the axis, which stands in all of them, once."""
    planes = protocol.planes_deg or (base.turn_deg,)
    every = ((float(a), float(turn) if a else 0.0) for turn in planes for a in protocol.angles_deg or (base.angle_deg,))
    return tuple(dict.fromkeys(every))

"""Lines drawn from all that people say of a reading, each with what it must mean: the meanings are written down here by
hand, none is asked of the program. Invented figures."""

import math
import random
from dataclasses import dataclass, field

from even_beam.bench.records import Terms
from even_beam.said import Said, Situation

HERE = Terms(cct_k=5600.0, level_pct=100.0, distance_m=3.0)
ASKING_ALL = Situation(("illuminance", "cct", "duv", "ra"), HERE, fitted=("dish", "big lens", "silver 60x90"))

FOOTCANDLE_LX = 10.763910416709722
"""Lux in a footcandle: 1 / 0.3048 squared (exact, by the international foot)."""


@dataclass(frozen=True)
class Piece:
    """A part of a line, the figures by quantity and the terms by field that it means."""

    text: str
    figures: dict[str, float] = field(default_factory=dict)
    terms: dict[str, object] = field(default_factory=dict)


def _level(draw: random.Random) -> Piece:
    lux = draw.choice([round(draw.uniform(0.2, 99.0), 1), float(draw.randint(100, 99_000))])
    footcandles = round(draw.uniform(0.5, 900.0), 1)
    bare = draw.randint(101, 1400)
    return draw.choice([
        Piece(f"{lux:g} lx" if lux < 1e5 else "1600 lx", {"illuminance": lux}),
        Piece(f"{lux:,.0f} lux", {"illuminance": float(f"{lux:.0f}")}),
        Piece(f"{footcandles:g} fc", {"illuminance": footcandles * FOOTCANDLE_LX}),
        Piece(f"{bare}", {"illuminance": bare}),
        Piece(f"{footcandles:g} foot candles", {"illuminance": footcandles * FOOTCANDLE_LX}),
    ])  # fmt: skip


def _white_read(draw: random.Random) -> Piece:
    kelvin = draw.randint(2000, 9999)
    return Piece(draw.choice([f"{kelvin} K", f"{kelvin}K", f"{kelvin} kelvin", f"read {kelvin} K"]), {"cct": kelvin})


def _tint_read(draw: random.Random) -> Piece:
    duv = round(draw.uniform(-0.0199, 0.0199), 4)
    return Piece(draw.choice([f"{duv:+.4f} duv", f"duv {duv:+.4f}", f"{duv:+.4f}"]), {"duv": duv})


def _score(name: str, label: str) -> object:
    def drawn(draw: random.Random) -> Piece:
        value = draw.randint(20, 99)
        return Piece(draw.choice([f"{label} {value}", f"{value} {label}", f"{label}: {value}"]), {name: value})

    return drawn


def _dimmer(draw: random.Random) -> Piece:
    per_cent, step = draw.randint(1, 100), draw.randint(1, 255)
    return draw.choice([
        Piece(f"{per_cent} %", terms={"level_pct": per_cent}),
        Piece(f"at {per_cent}%", terms={"level_pct": per_cent}),
        Piece(f"set to {per_cent} percent", terms={"level_pct": per_cent}),
        Piece(f"{step}/255", terms={"level_pct": 100.0 * step / 255.0}),
    ])  # fmt: skip


def _dial(draw: random.Random) -> Piece:
    kelvin = draw.randrange(1500, 9900, 50)
    how = draw.choice(["dial {}", "dialled {} K", "set to {}", "set {} K", "dial {}K"])
    return Piece(how.format(kelvin), terms={"cct_k": kelvin})


def _distance(draw: random.Random) -> Piece:
    metres, feet = draw.choice([0.5, 1, 1.5, 2, 3, 7.5]), draw.randint(2, 40)
    return draw.choice([
        Piece(f"{metres:g} m", terms={"distance_m": metres}),
        Piece(f"at {metres:g} m", terms={"distance_m": metres}),
        Piece(f"at {feet} ft", terms={"distance_m": feet * 0.3048}),
        Piece(f"@ {feet} feet", terms={"distance_m": feet * 0.3048}),
        Piece(f"{feet}'6\"", terms={"distance_m": (feet + 0.5) * 0.3048}),
    ])  # fmt: skip


def _zoom(draw: random.Random) -> Piece:
    return draw.choice([
        Piece("spot", terms={"zoom": "spot"}), Piece("full flood", terms={"zoom": "flood"}),
        Piece("zoom 30", terms={"zoom": "30"}), Piece("medium", terms={"zoom": "medium"}),
    ])  # fmt: skip


def _fitted(draw: random.Random) -> Piece:
    return draw.choice([
        Piece("bare", terms={"configuration": ()}),
        Piece("dish + full CTO", terms={"configuration": ("dish", "full CTO")}),
        Piece("with broadlens", terms={"configuration": ("broadlens",)}),
        Piece("with long throw dish", terms={"configuration": ("long throw dish",)}),
        Piece("eighth minus green", terms={"configuration": ("eighth minus green",)}),
        Piece("big lens", terms={"configuration": ("big lens",)}),
        Piece("silver 60x90 + half CTB", terms={"configuration": ("silver 60x90", "half CTB")}),
        Piece("softbox+grid", terms={"configuration": ("softbox", "grid")}),
    ])  # fmt: skip


def _tint(draw: random.Random) -> Piece:
    tint = draw.randint(-50, 50)
    return Piece(f"tint {tint:+d}", terms={"tint": f"{tint:+d}"})


def _aside(draw: random.Random) -> Piece:
    degrees = draw.randint(1, 80)
    return draw.choice([
        Piece(f"{degrees}° left", terms={"angle_deg": -degrees, "turn_deg": 0.0}),
        Piece(f"{degrees} deg up", terms={"angle_deg": degrees, "turn_deg": 90.0}),
        Piece(f"{degrees} right", terms={"angle_deg": degrees, "turn_deg": 0.0}),
    ])  # fmt: skip


def _plane(draw: random.Random) -> Piece:
    name = draw.choice(["yoke", "front", "glass"])
    return Piece(f"reference plane {name}", terms={"reference_plane": name})


def _around(draw: random.Random) -> Piece:
    watts, decibels = draw.randint(10, 2000), draw.randint(20, 60)
    return draw.choice([Piece(f"{watts} W", {"power_w": watts}), Piece(f"{decibels} dB", {"sound_db": decibels})])


KINDS = (
    _level, _white_read, _tint_read, _score("ra", "Ra"), _score("tlci", "TLCI"), _score("r9", "R9"), _dimmer, _dial,
    _distance, _zoom, _fitted, _tint, _aside, _plane, _around,
)  # fmt: skip
SEPARATORS = (" ", " ", ", ", "; ", "  ", " and ")


def drawn(draw: random.Random) -> list[Piece]:
    """One to six parts, no two of a kind, in any order."""
    kinds = draw.sample(KINDS, draw.randint(1, 6))
    return [kind(draw) for kind in kinds]  # type: ignore[operator]


def joined(pieces: list[Piece], draw: random.Random) -> str:
    """The parts as a line, with any separators between them."""
    line = pieces[0].text
    for piece in pieces[1:]:
        line += draw.choice(SEPARATORS) + piece.text
    return line


def means(said: Said, pieces: list[Piece]) -> bool:
    """Whether a line was understood as just what its parts mean."""
    figures = {name: value for piece in pieces for name, value in piece.figures.items()}
    terms = {name: value for piece in pieces for name, value in piece.terms.items()}
    read = {entry.quantity: entry.value for entry in said.entries}
    if read.keys() != figures.keys() or said.terms.keys() - IMPLIED != terms.keys():
        return False
    right = all(math.isclose(read[name] or 0.0, value, rel_tol=1e-9, abs_tol=1e-12) for name, value in figures.items())
    return right and all(_same(said.terms[name], value) for name, value in terms.items())


def _same(found: object, meant: object) -> bool:
    if isinstance(found, int | float) and isinstance(meant, int | float):
        return abs(found - meant) <= 0.005
    return found == meant


IMPLIED = {"mode", "placement"}
"""Terms that others bring with them."""

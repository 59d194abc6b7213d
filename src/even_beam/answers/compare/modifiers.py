"""What sits on a lamp against the lamp without it, and flood against spot, in a line each."""

from collections.abc import Callable, Mapping, Sequence

from even_beam.answers.findings.witness import Witness
from even_beam.known.choice import Entrant
from even_beam.known.findings import modifiers, output
from even_beam.light.photometry import stops
from even_beam.words import notation

_EFFECTS: Mapping[str, Callable[[float], str]] = {
    "level": lambda ratio: f"{notation.times(ratio)}×, {notation.stops(float(stops(ratio)))} stops",
    "white": lambda shift: f"{notation.number(shift, 1, signed=True)} mired",
    "tint": lambda shift: f"Duv {notation.duv(shift)}",
    "beam": lambda wider: f"beam {notation.number(wider, 0, signed=True)}°",
}
"""How the effects of what sits on a lamp are written."""


def modifier_lines(witness: Witness, entrants: Sequence[Entrant]) -> tuple[str, ...]:
    """A line a lamp, what sits on it and its terms; then what gathering the beam does."""
    lines: list[str] = []
    for entrant in entrants:
        evidence = witness.evidence(entrant)
        effects: dict[str, list[str]] = {}
        for finding in (*modifiers.matrix(evidence), *modifiers.beam_spread(evidence)):
            name, _, what = finding.name.rpartition(", ")
            if what in _EFFECTS and finding.value is not None:
                effects.setdefault(f"{name}, {finding.terms}", []).append(_EFFECTS[what](finding.value))
        lines += [f"{entrant.name}, {name}: {', '.join(own)}." for name, own in effects.items()]
        lines += [f"{entrant.name}: {finding.sentence}" for finding in output.focus_range(evidence)]
    return tuple(dict.fromkeys(lines))

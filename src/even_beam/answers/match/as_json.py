"""Lamps matched to a target as plain values for `even-beam match --json` (docs/file-format.md)."""

from collections.abc import Sequence
from typing import Any

from even_beam.answers.findings.named_lamps import named_lamps
from even_beam.answers.findings.witness import Witness
from even_beam.answers.match.desk import Matched, Matching
from even_beam.answers.match.target_text import LEAST, TargetTextError, target_of
from even_beam.bench.terms_json import terms_json
from even_beam.collection.collection import Collection
from even_beam.known.matching.answer import Answer, headline
from even_beam.known.matching.clashes import Pair, clash_count, groups
from even_beam.known.matching.gels import HEAT, GelAnswer


def match(collection: Collection, target: str, fixtures: Sequence[str] | None = None, gels: str = "") -> dict[str, Any]:
    """Fixtures matched to a target, all that were read where none is named.

    Raises `TargetTextError`, `UnknownGelError`, `UnknownFixtureError` and `TermsTextError`.
    """
    witness = Witness(collection)
    entrants = named_lamps(collection, fixtures) if fixtures else witness.entrants()
    desk = Matching(collection, entrants, gels)
    if target.strip().casefold() == LEAST:
        if not desk.lamps:
            raise TargetTextError("no white was read of any of them: there is none to follow")
        aim = desk.cheapest()
    else:
        aim = target_of(target, collection, witness)
    return as_json(desk.matched(aim))


def as_json(found: Matched) -> dict[str, Any]:
    """What was found as plain values."""
    return {
        "target": {"name": found.target.name or None, "cct_k": found.target.cct_k, "duv": found.target.duv},
        "headline": headline(found.answers),
        "answers": [_answer(one) for one in found.answers],
        "clash_count": clash_count(found.answers),
        "clashes": [_pair(one) for one in found.pairs if one.clashes],
        "agree": [list(group) for group in groups(found.answers)],
        "not_read": list(found.unread),
        "cautions": [HEAT] if any(one.gels for one in found.answers) else [],
    }


def _dial(one: Answer) -> dict[str, float | None] | None:
    dial, colour = one.dial, one.to_colour
    if colour is not None:
        return {"cct_k": None, "tint": None, "hue": colour.hue_deg, "saturation": colour.saturation_pct}
    return None if dial is None else {"cct_k": dial.dial_k, "tint": dial.tint}


def _answer(one: Answer) -> dict[str, Any]:
    mired, duv = one.expected
    mired_off, duv_off = one.left
    dial = one.dial
    return {
        "fixture": one.name,
        "terms": terms_json(one.repeats[0].terms),
        "words": one.terms,
        "reading": {"cct_k": one.cct_k, "duv": one.duv},
        "off": {"mired": one.off[0], "duv": one.off[1]},
        "leave": one.agrees,
        "dial": _dial(one),
        "expected": {"cct_k": 1e6 / mired, "duv": duv, "mired_off": mired_off, "duv_off": duv_off},
        "dialled": {"mired_off": one.dialled[0], "duv_off": one.dialled[1]},
        "uncertainty": {
            "mired": dial.half_mired if one.to_dial is not None and dial is not None else one.half_mired,
            "duv": one.half_duv,
        },
        "level_stops": None if one.cost_stops is None else -one.cost_stops,
        "reachable": one.agrees or (dial is not None and dial.reachable) or any(gel.matches for gel in one.gels),
        "gels": [_gel(gel) for gel in one.gels],
        "gels_on": "reference spectrum" if one.no_spectrum else "its own spectrum",
        "readings": list(one.rests_on),
        "sentence": one.sentence,
        "behind": one.behind or None,
    }


def _gel(one: GelAnswer) -> dict[str, Any]:
    return {
        "pack": list(one.pack),
        "mired_off": one.mired_off,
        "duv_off": one.duv_off,
        "loss_stops": one.loss_stops,
        "half_widths": {"mired": one.half_mired, "duv": one.half_duv, "ra": one.half_score, "rf": one.half_score},
        "read": one.is_read,
        **one.scores,
    }


def _pair(one: Pair) -> dict[str, Any]:
    return {
        "fixtures": [one.a.name, one.b.name],
        "mired": one.mired,
        "duv": one.duv,
        "opposite_tints": one.opposite,
        "tlmf": one.tlmf,
        "ssi": one.ssi,
        "subjects": one.subjects or None,
        "after": {"mired": one.after_mired, "duv": one.after_duv, "agree": one.agrees_after},
        "sentence": one.sentence,
    }

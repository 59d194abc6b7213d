"""What to look at before anything is published: figures that rest on one reading, on repeats or evenings that disagree,
on a doubt, on other evenings than those they stand beside, or on a meter of which nobody stated what it promises."""

from collections.abc import Iterable, Mapping, Sequence

from even_beam.bench.estimate import UNKNOWN_METER
from even_beam.bench.measured import Measured
from even_beam.bench.records import Meter
from even_beam.handing_over.material import Material
from even_beam.known import trust
from even_beam.known.choice import Entrant
from even_beam.words import notation

MOST_NAMED = 2
"""More settings than these are counted instead of named."""


def before_published(material: Material) -> list[str]:
    """A line a matter, lamp by lamp; what holds of all lamps last. Empty where nothing is to be looked at."""
    lines: list[str] = []
    for entrant in material.entrants:
        lines += _of_a_lamp(material, entrant)
    return [*lines, *_days(material), *_played(material), *_assumed(material)]


def _of_a_lamp(material: Material, entrant: Entrant) -> Iterable[str]:
    findings = material.witness.findings(entrant)
    once = [f for f in findings if f.name == "illuminance" and len(f.readings) == 1]
    if once:
        named = "; ".join(f.terms for f in once[:MOST_NAMED])
        more = f"; and at {len(once) - MOST_NAMED} more settings" if len(once) > MOST_NAMED else ""
        yield f"{entrant.name}: read once, so that nobody knows how it repeats, at {named}{more}."
    for finding in findings:
        if finding.name in {"repeats that disagree", "evenings that disagree", "sources that disagree"}:
            yield f"{entrant.name}: {finding.sentence}"
    if doubts := trust.doubts_of(entrant.readings):
        verb = "count" if doubts[0] != "1" else "counts"
        yield f"{entrant.name}: {doubts} {verb}: read again, or set aside, with Alt E on the Bench."


def _days(material: Material) -> list[str]:
    """Lamps that were never read in one session have the room, the meter and the aim of different evenings."""
    if len(material.entrants) < 2:
        return []
    shared = set.intersection(*({m.reading.session_id for m in e.readings} for e in material.entrants))
    if shared:
        return []
    return ["No session has all of these lamps: beside each other stand figures of different evenings."]


def _played(material: Material) -> list[str]:
    count = material.simulated
    is_one = "is" if count == 1 else "are"
    return [f"{notation.count(count, 'reading')} {is_one} simulated: they say nothing of a real lamp."] if count else []


def _assumed(material: Material) -> list[str]:
    meters = assumed_meters(material.readings, material.collection.meters)
    if not meters:
        return []
    whose = notation.listed(list(dict.fromkeys(meter.nickname for meter in meters)))
    one = meters[0]  # all that is assumed is the same
    promised = f"levels to ±{notation.plain(100.0 * one.level_tolerance)} %, ratios to"
    promised += f" ±{notation.plain(100.0 * one.ratio_tolerance)} %, x and y to ±{notation.plain(one.xy_tolerance, 4)}"
    return [
        f"What {whose} can tell is assumed ({promised}): nobody stated it, and every ± rests on it. Kit, Meters takes"
        " what the maker states, such as `level within 3 %`."
    ]


def assumed_meters(readings: Sequence[Measured], meters: Mapping[str, Meter]) -> list[Meter]:
    """The meters that readings come from and of which nothing was stated."""
    used = dict.fromkeys(m.reading.meter_id or "" for m in readings)
    return [meter for meter in (meters.get(i, UNKNOWN_METER) for i in used) if meter.is_assumed]

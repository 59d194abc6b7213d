"""What else is known of a lamp, a subject a line: sentences beside the tables and pictures that prove them."""

from collections.abc import Mapping

from even_beam.handing_over.material import Material
from even_beam.handing_over.sections.rows import filled, found_named, said_of
from even_beam.known.choice import Entrant
from even_beam.known.findings.finding import Finding
from even_beam.paper.document import Cell, Said, Section
from even_beam.words import notation

MOST_OF_A_TOPIC = 3
"""So many sentences of a subject; the command line tells all."""

_NAMED: Mapping[str, tuple[str, ...]] = {
    "light": ("exposure", "focus range", "light lost", "pop to pop"),
    "beam": ("loss off", "evenness", "beam angle", "field angle", "lumens", "colour at the edge"),
    "white": ("own white", "share of the way", "white of most"),
    "tint": ("tint", "Duv per step", "CC"),
    "dial": ("what to dial", "what to try", "dial slope"),
    "hues": ("hue error", "saturation error", "desaturated white"),
    "flicker": ("flicker",),
    "camera": ("chart photograph", "fade"),
}
"""Subjects by the names that their findings begin with."""

_ASKED: Mapping[str, str] = {
    "dimming": "dimming",
    "colour": "colour",
    "electrical": "power",
    "noise": "noise",
    "years": "over years",
}
"""Subjects by the question that their findings answer."""

_ORDER = (
    "light", "beam", "dimming", "white", "tint", "dial", "colour", "hues", "power", "flicker", "camera", "noise",
    "over years",
)  # fmt: skip


def topics(material: Material, entrant: Entrant) -> Section:
    """Sentences by subject, the weightiest of each; those of the same words at several terms as one."""
    by_topic: dict[str, list[Finding]] = {}
    for finding in material.witness.findings(entrant):
        if (topic := _topic_of(finding)) is not None and finding.weight > 0:
            by_topic.setdefault(topic, []).append(finding)
    said = []
    for topic in (name for name in _ORDER if name in by_topic):
        own = said_of(material, entrant, sorted(by_topic[topic], key=lambda one: -one.weight))[:MOST_OF_A_TOPIC]
        said += [Said(one.text, one.readings, topic) for one in own]
    return Section("topics", "What else was found", tuple(said))


def _topic_of(finding: Finding) -> str | None:
    named = next((topic for topic, names in _NAMED.items() if finding.name.startswith(names)), None)
    return named or _ASKED.get(finding.question)


def repeats(material: Material, entrant: Entrant) -> Section:
    """How far one reading and the next at the same terms differ, quantity by quantity."""
    found = found_named(material, entrant, _REPEATED)
    heads = [one.name.removeprefix(_REPEATED) + f", {one.unit}" * bool(one.unit) for one in found]
    rows = [
        tuple(Cell(text) for text in ("on the mean", *(notation.significant(one.value, 2) for one in found))),
        tuple(Cell(text) for text in ("at most", *(notation.significant(one.spread, 2) for one in found))),
    ]
    table = filled(["two readings of the same differ by", *heads], rows)
    return Section("repeats", "Repeatability", tables=(table,) if table is not None else ())


_REPEATED = "repeatability of "

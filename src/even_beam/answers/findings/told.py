"""What is known of a fixture in sentences, the ones that matter first: what a person asks within ten seconds, or
all."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace

from even_beam.answers.findings.glance import Glance
from even_beam.answers.findings.glance_words import terms_line
from even_beam.answers.findings.witness import Witness
from even_beam.bench import terms
from even_beam.bench.fields import Key
from even_beam.bench.records import Claim
from even_beam.bench.tolerances import is_of_a_place
from even_beam.known import trust
from even_beam.known.choice import Entrant
from even_beam.known.doubts import Flag
from even_beam.known.evidence import usual
from even_beam.known.findings.claims import ClaimVerdict, Even, Holds, figure_claimed
from even_beam.known.findings.finding import Finding
from even_beam.known.verdict_words import reason_of
from even_beam.known.verdicts import Answer, Verdict
from even_beam.words import notation

MOST = 12
"""So many sentences are told of a fixture at first."""

_OF_A_NAME = {"illuminance": 2, "what to dial": 2, "what to try": 1}
"""So many sentences of findings whose name begins so, each of another light; one of any other."""


@dataclass(frozen=True, slots=True)
class Told:
    """One sentence with the readings it rests on; `subject` is what it speaks of, in a word.

    `words` say it without its `terms`; `differs` are those of them that are not the ones the lamp's others are at.
    """

    subject: str
    words: str
    readings: tuple[str, ...] = ()
    terms: str = ""
    differs: str = ""
    aside: str = ""

    @property
    def sentence(self) -> str:
        """As it stands alone."""
        return _sentence(self.words, f"at {self.terms}" if self.terms else "", self.aside)

    @property
    def in_block(self) -> str:
        """As it stands below a line that has the terms of all of them."""
        return _sentence(self.words, self.differs, self.aside)


def _sentence(words: str, placed: str, aside: str) -> str:
    return " ".join(part for part in (f"{', '.join(filter(None, (words, placed)))}.", aside) if part)


def block_terms(witness: Witness, entrant: Entrant) -> str:
    """The terms that the sentences of a lamp are at where they do not say otherwise, in a line; empty for none."""
    return terms_line(witness.kept(entrant, Glance))


def told_of(witness: Witness, entrant: Entrant, findings: Sequence[Finding]) -> list[Told]:
    """Findings of a lamp as sentences, with what is in doubt of the readings they rest on."""
    evidence, base = witness.evidence(entrant), witness.kept(entrant, Glance).base
    own = {m.reading.id: m for m in entrant.readings}
    found = []
    for one in findings:
        first = next((own[i] for i in one.readings if i in own), None)
        places = one.says_terms and one.terms != ""
        differs = f"at {one.terms}"
        if base is not None and first is not None and places:
            differs = evidence.apart(first, base, *one.axis)
        doubts = trust.doubts_of([own[i] for i in dict.fromkeys(one.readings) if i in own])
        aside = " ".join(part for part in (one.aside, f"It rests on {doubts}." if doubts else "") if part)
        said = (one.terms, differs) if places else ("", "")
        found.append(Told(one.question, one.words, one.readings, *said, aside))
    return found


def as_one(found: Sequence[Told]) -> list[Told]:
    """Sentences of a block with those of the same words made one: what holds at several terms is said once."""
    by_words: dict[tuple[str, str], list[Told]] = {}
    for one in found:
        by_words.setdefault((one.words, one.aside), []).append(one)
    return [_joined(own) for own in by_words.values()]


def _joined(same: Sequence[Told]) -> Told:
    places = list(dict.fromkeys(one.differs for one in same))
    if len(places) < 2:
        return same[0]
    readings = tuple(dict.fromkeys(i for one in same for i in one.readings))
    elsewhere = "; ".join(place for place in places if place)
    if "" in places:
        elsewhere = f"and so {elsewhere}"
    return replace(same[0], readings=readings, differs=elsewhere)


def headline(witness: Witness, entrant: Entrant) -> list[Told]:
    """At most a dozen sentences of a fixture: output, white, colours, dimming, what to dial, claims, purposes,
    doubts."""
    found = [*_judged(witness, entrant)]
    room = MOST - len(found)
    return [*_foremost(witness, entrant, room), *found]


def everything(witness: Witness, entrant: Entrant) -> list[Told]:
    """Every sentence of a fixture, each once."""
    told = told_of(witness, entrant, witness.findings(entrant))
    told += [Told("claim", c.sentence.rstrip("."), c.readings) for c in witness.claims(entrant)]
    told += [Told("purpose", v.sentence.rstrip(".")) for v in witness.verdicts(entrant)]
    told += [Told("in doubt", flag.sentence.rstrip("."), (flag.reading_id,)) for flag in witness.flags(entrant)]
    return list({one.sentence: one for one in told}.values())


def _foremost(witness: Witness, entrant: Entrant, most: int) -> list[Told]:
    """The weightiest findings, not too many of one name, in the order in which they are asked.

    Of equal ones those at the terms that are usually asked, bare and at a working white; of these the ones that rest
    on the most readings, at the mark where and by the meter with which most was read, and then the newest, as a
    comparison chooses.
    """
    own = {m.reading.id: m for m in entrant.readings}
    findings = [f for f in witness.findings(entrant) if f.weight > 0 and f.readings]

    base = witness.kept(entrant, Glance).base
    marks = Counter(m.terms.distance_m for m in own.values())
    meters = Counter(m.reading.meter_id for m in own.values())

    def order(finding: Finding) -> tuple[float, ...]:
        rests_on = [own[i] for i in finding.readings if i in own]
        newest = max(m.reading.at.timestamp() for m in rests_on)
        day = newest // 86_400 if finding.name.startswith("what to") else 0.0  # a dial is told as it was last read
        at_mark = max(marks[m.terms.distance_m] for m in rests_on)
        by_meter = max(meters[m.reading.meter_id] for m in rests_on)
        is_own = finding.name == "illuminance" and base is not None and base.reading.id in finding.readings
        return -is_own, -finding.weight, -day, -max(map(usual, rests_on)), -len(rests_on), -at_mark, -by_meter, -newest

    ordered = sorted(findings, key=order)
    taken: dict[str, int] = {}
    lights: set[tuple[str, Key]] = set()
    told: dict[str, Finding] = {}
    questions = list(dict.fromkeys(f.question for f in findings))
    for finding in ordered:
        name = next((known for known in _OF_A_NAME if finding.name.startswith(known)), _kind(finding))
        if len(told) >= most or taken.get(name, 0) >= _OF_A_NAME.get(name, 1):
            continue
        first = next(own[i] for i in finding.readings if i in own)
        light = finding.name, () if name.startswith("what to") else terms.key(first, *terms.PLACE, *terms.READ)
        if name in _OF_A_NAME and light in lights:
            continue
        lights.add(light)
        if finding.sentence not in told:
            taken[name] = taken.get(name, 0) + 1
            told[finding.sentence] = finding
    found = told_of(witness, entrant, sorted(told.values(), key=lambda f: questions.index(f.question)))
    return sorted(found, key=lambda one: (questions.index(one.subject), one.differs != ""))


def _kind(finding: Finding) -> str:
    """Findings of one kind stand for each other: one modifier's level, white and tint are one sentence."""
    name, _, what = finding.name.rpartition(", ")
    return name if what in {"level", "white", "tint"} else finding.name


def _judged(witness: Witness, entrant: Entrant) -> list[Told]:
    """Claims that do not hold, purposes in a line, and what is in doubt."""
    claims = witness.claims(entrant)
    told = [Told("claim", c.sentence.rstrip("."), c.readings) for c in claims if c.holds is Holds.NO][:2]
    if (line := _claims_line(claims)) is not None:
        told.append(line)
    told += _purposes(witness, entrant)
    found = witness.flags(entrant)
    if found:
        told.append(_doubts(found))
    return told


def _claims_line(claims: Sequence[ClaimVerdict]) -> Told | None:
    holding = [c.claim for c in claims if c.holds is Holds.YES]
    unsure = [c.claim for c in claims if c.holds is Holds.CANNOT_TELL and c.even is not Even.NOT_MEASURED]
    parts = [f"{_named(holding)} hold{'s' * (len(holding) == 1)}"] if holding else []
    parts += [f"{_named(unsure)} cannot be told"] if unsure else []
    return Told("claim", f"Of what is claimed {'; '.join(parts)}") if parts else None


def _named(claims: Sequence[Claim]) -> str:
    return notation.listed([figure_claimed(c) + (f" ({c.condition})" if c.condition else "") for c in claims])


def _purposes(witness: Witness, entrant: Entrant) -> list[Told]:
    """Only what can be told surely: what it is good for, and what it is surely not for, with the reason."""
    judged = witness.verdicts(entrant)
    good = [v for v in judged if v.answer is Answer.WITHIN and v.certain]
    found = []
    if good:
        names = notation.listed([v.purpose for v in good])
        found.append(_at(witness, entrant, f"It is good for {names}: every limit is met", good[0]))
    failing = [
        v
        for v in judged
        if v.answer is Answer.OUTSIDE and v.certain and not is_of_a_place(j.limit for j in v.judgements)
    ]
    if failing:
        by_reason: dict[str, list[str]] = {}
        for one in failing:
            by_reason.setdefault(reason_of(one), []).append(one.purpose)
        reasons = [f"for {notation.listed(names)} ({reason})" for reason, names in by_reason.items()]
        found.append(_at(witness, entrant, f"It is not good enough {notation.listed(reasons)}", failing[0]))
    return found


def _at(witness: Witness, entrant: Entrant, words: str, judged: Verdict) -> Told:
    """A verdict at its terms, of which a block names those that are not its own."""
    base, evidence = witness.kept(entrant, Glance).base, witness.evidence(entrant)
    behind = {i for one in judged.judgements for i in one.readings}
    first = next((m for m in entrant.readings if m.reading.id in behind and evidence.at(m) == judged.at), None)
    differs = evidence.apart(first, base) if first is not None and base is not None else f"at {judged.at}"
    return Told("purpose", words, (), judged.at, differs)


def _doubts(found: Sequence[Flag]) -> Told:
    more = f" And {len(found) - 1} more reading{'s' * (len(found) > 2)} in doubt." if len(found) > 1 else ""
    return Told("in doubt", found[0].sentence.rstrip("."), tuple(f.reading_id for f in found), aside=more.strip())

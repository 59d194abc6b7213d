"""One lamp, one answer: at one set of terms every door prints the same figure, over invented logbooks with repeats,
slips among them, modes, tints, zooms, modifiers, meters and two evenings."""

import random
import re
from pathlib import Path

import pytest

import even_beam
from even_beam.answers.compare.loading import compared
from even_beam.answers.findings.witness import Witness
from even_beam.answers.intake.importing import AsSaid, import_files
from even_beam.answers.match.lamp import Lamp
from even_beam.bench import terms
from even_beam.bench.exposure import Exposure
from even_beam.collection.collection import Collection
from even_beam.handing_over.labels import content_of
from even_beam.handing_over.material import Material
from even_beam.handing_over.sentences import statements
from even_beam.known import summary
from even_beam.known.matching.enough import enough
from even_beam.shell.settings import Settings
from even_beam.words import notation

HEAD = "session,fixture,mode,cct_k,tint,dimmer_pct,configuration,zoom,distance,meter,quantity,value,unit,time"
DAYS = ("2026-09-03T19:00:00+00:00", "2026-11-02T19:00:00+00:00")
AT = Exposure(800.0, 1 / 50, 250.0)


def table(seed: int) -> str:
    """Lamps on crossed terms, one to four repeats each, now and then one of them ten times off."""
    draw = random.Random(seed)
    rows = [HEAD]
    for lamp in draw.sample(["Alder", "Bryony", "Campion", "Dittany"], 3):
        full, off = draw.uniform(300, 9000), draw.uniform(-15, 15)
        crossed = [
            (mode, white, tint, level, pack, zoom)
            for mode in draw.choice([("CCT",), ("CCT", "Boost")])
            for white in draw.sample([2700, 3200, 4300, 5600, 6500], 2)
            for tint in draw.choice([("",), ("0", "+30")])
            for level in draw.choice([(100,), (100, 25)])
            for pack in draw.choice([("bare",), ("bare", "dish")])
            for zoom in draw.choice([("",), ("flood", "spot")])
        ]
        for evening in range(draw.choice([1, 2])):
            meter = draw.choice(["Wall meter", "Pocket meter"])
            for mode, white, tint, level, pack, zoom in draw.sample(crossed, min(len(crossed), 8)):
                place = f"{'First' if evening == 0 else 'Second'} evening,{lamp},{mode},{white},{tint},{level},{pack}"
                place += f",{zoom},2 m,{meter}"
                repeats, slips = draw.choice([1, 2, 3, 4]), draw.random() < 0.2
                lux = full * level / 100 * {"dish": 3.0}.get(pack, 1.0) * {"spot": 2.5}.get(zoom, 1.0)
                for n in range(repeats):
                    read = lux * draw.gauss(1.0, 0.01) * (10.0 if slips and n == 1 else 1.0)
                    kelvin = 1e6 / (1e6 / white + off + draw.gauss(0.0, 0.5))
                    rows += [f"{place},illuminance,{read:.1f},lx,{DAYS[evening]}"]
                    rows += [f"{place},cct,{kelvin:.0f},K,{DAYS[evening]}"] if not slips else []
    return "\n".join(rows)


@pytest.fixture(params=range(6))
def collection(request, tmp_path, logbook, clock):
    path = tmp_path / "invented.csv"
    path.write_text(table(request.param))
    import_files([path], logbook, clock, AsSaid(guess=True))
    return Collection(logbook)


def groups(evidence):
    return [own for own in terms.grouped(evidence.readings).values() if own[0].value("illuminance")]


def test_a_level_is_the_same_at_every_door(collection):
    witness, asked = Witness(collection), 0
    for entrant in witness.entrants():
        evidence = witness.evidence(entrant)
        found = {f.terms: f for f in witness.findings(entrant) if f.name == "illuminance"}
        table_rows = {row.readings[0]: row for row in summary.rows_of(entrant, collection.meters)}
        for own in groups(evidence):
            said, row = evidence.at(own[0]), table_rows[own[0].reading.id]
            level = found.get(said)
            answer = enough(evidence, own, 5.6, AT)
            at = {name: terms.value(own[0], name) for name in terms.NAMES}
            comparison, _ = compared(collection, [entrant], at, entrant.key)
            entry = comparison.entry(entrant.key)
            if level is None:  # dimmed, or repeats that disagree
                disagrees = "illuminance" not in row.figures
                assert disagrees == (answer is None) == (evidence.level_of(own).value is None)
                assert not disagrees or "disagree" in row.texts["illuminance"]
                continue
            doors = [level.value, row.figures["illuminance"], answer.read_lux, entry.illuminance]
            assert len({notation.light(value) for value in doors}) == 1, (said, doors)
            asked += 1
    assert asked > 5


def test_a_white_is_the_same_at_every_door(collection):
    witness = Witness(collection)
    for entrant in witness.entrants():
        evidence = witness.evidence(entrant)
        table_rows = {row.readings[0]: row for row in summary.rows_of(entrant, collection.meters)}
        lamp = Lamp.of(entrant, evidence)
        points = {p.repeats[0].reading.id: p for p in lamp.dialled} if lamp is not None else {}
        for own in groups(evidence):
            if not own[0].value("cct"):
                continue
            doors = [1e6 / evidence.white_of(own).value, table_rows[own[0].reading.id].figures["cct"]]
            if own[0].reading.id in points:
                doors.append(1e6 / points[own[0].reading.id].mired)
            assert len({notation.kelvin(value) for value in doors}) == 1, (evidence.at(own[0]), doors)


def test_labels_and_sentences_say_what_findings_say(collection):
    material = Material(collection, Settings(), None)
    figures = {}
    for entrant in material.entrants:
        found = material.witness.findings(entrant)
        figures[entrant.name] = {notation.level(f.value) for f in found if f.name == "illuminance"}
        for line in content_of(material, entrant).lines:
            if " lx at " in line:
                assert line.split(" at ")[0] in figures[entrant.name], line
    for one in statements(lambda: Material(Collection(collection.logbook), Settings(), None)):
        level = re.fullmatch(rf"({'|'.join(figures)}) gives (\S+ lx) \(±.*", one.long)
        assert level is None or level[2] in figures[level[1]], one.long


def test_only_one_place_makes_a_figure_of_repeats():
    """Levels, whites, tints, scores and exposures are asked of a lamp's evidence; a walk makes those of its marks."""
    asking = re.compile(r"\bestimate\.(level|white|tint|score|exposure)\(")
    sources = Path(even_beam.__file__).parent
    asked_by = {str(path.relative_to(sources)) for path in sources.rglob("*.py") if asking.search(path.read_text())}
    assert asked_by == {"known/evidence.py", "bench/walks.py"}


def test_statements_with_the_same_words_have_the_same_figure(collection):
    """No two of all findings share their words and differ in what they rest on."""
    witness = Witness(collection)
    for entrant in witness.entrants():
        said: dict[str, float | None] = {}
        for finding in witness.findings(entrant):
            key = f"{finding.name}|{finding.terms}"
            assert said.setdefault(key, finding.value) == finding.value, finding.sentence

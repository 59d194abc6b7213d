"""The generated logbook of the benchmarks is a sound one, and what was put into its lamps is found in it."""

import pytest

from benchmarks import large_logbook
from even_beam.answers.compare.as_json import comparison
from even_beam.answers.findings.witness import UnknownFixtureError, Witness
from even_beam.collection.collection import Collection
from even_beam.known.split import Split
from even_beam.logbook.integrity import check
from even_beam.logbook.store import Logbook


@pytest.fixture(scope="module")
def path(tmp_path_factory):
    made = tmp_path_factory.mktemp("large") / "large.evenbeam"
    large_logbook.build(made, fixtures=6, sessions=6)
    return made


def test_it_is_sound(path):
    report = check(path)
    assert report.sound and report.out_of_date == 0
    assert report.readings == report.spectra == 6 * 2 * len(large_logbook.SETTINGS)


def test_units_of_a_model_stand_beside_each_other(path):
    logbook = Logbook.open_to_read(path)
    collection = Collection(logbook)
    witness = Witness(collection)
    (first,) = witness.entrants(["Unit 000"])
    found = witness.findings(first)
    others = [f for f in found if f.name.startswith("level against")]
    assert others and all("the same model" in f.sentence for f in others)
    # the same unit against the other, seen from the other side
    name = others[0].name.removeprefix("level against ")
    (second,) = witness.entrants([name])
    back = next(
        f for f in witness.findings(second) if f.name == "level against Unit 000" and f.terms == others[0].terms
    )
    assert back.value == pytest.approx(-others[0].value, abs=1e-9)
    assert witness.findings(first) is found  # found once
    logbook.close()


def test_a_comparison_is_the_mirror_of_its_reverse(path):
    logbook = Logbook.open_to_read(path)
    names = [lamp.name for lamp in Collection(logbook).lamps()][:4]
    there = {e["fixture"]: e for e in comparison(Collection(logbook), names)["entries"]}
    back = {e["fixture"]: e for e in comparison(Collection(logbook), names[::-1])["entries"]}
    span = there[names[-1]]["stops"]
    for name in names:
        assert there[name]["stops"] - back[name]["stops"] == pytest.approx(span, abs=1e-9)
    assert there[names[0]]["stops"] == 0.0 and back[names[-1]]["stops"] == 0.0
    logbook.close()


def test_what_was_set_aside_is_left_out_and_what_was_undone_counts(path):
    logbook = Logbook.open_to_read(path)
    collection = Collection(logbook)
    session = collection.sessions[0]
    readings = collection.readings_in(session.id)
    assert [i for i, m in enumerate(readings) if not m.state.counts] == [20, 31]  # the last, 60, was undone
    counted = sum(len(entrant.readings) for entrant in collection.entrants_in(session.id))
    assert counted == len(readings) - 2
    logbook.close()


def test_parts_of_lamps_add_up(path):
    logbook = Logbook.open_to_read(path)
    counts = logbook.reading_counts(Split.LAMPS)
    by_session = logbook.reading_counts(Split.SESSIONS)
    for (source_id, _), count in counts.items():
        assert sum(n for (own, _), n in by_session.items() if own == source_id) == count
    names = Collection(logbook).session_names
    assert len(set(names.values())) == len(names)
    logbook.close()


def test_the_white_is_dialled_as_its_kind_does(path):
    logbook = Logbook.open_to_read(path)
    witness = Witness(Collection(logbook))
    slopes = {e.kind: f for e in witness.entrants() for f in witness.findings(e) if f.name == "dial slope"}
    assert slopes["bicolour panel"].value == pytest.approx(1.0, abs=0.15)
    dialled = [f for e in witness.entrants() for f in witness.findings(e) if f.name.startswith("what to dial")]
    assert all(f.sentence.startswith("Dial ") for f in dialled)
    assert slopes["tungsten Fresnel"].value == pytest.approx(0.0, abs=0.01)  # it cannot be dialled
    fresnels = [f for e in witness.entrants() if e.kind == "tungsten Fresnel" for f in witness.findings(e)]
    assert not any(f.name.startswith("what to dial") for f in fresnels)
    with pytest.raises(UnknownFixtureError, match="there are readings of"):
        witness.entrants(["Unit 999"])
    logbook.close()

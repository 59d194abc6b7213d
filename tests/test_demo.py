"""The demo holds the troubles it promises, and one clean lamp without a flag."""

import pytest

from even_beam.collection.collection import Collection, session_state
from even_beam.logbook.integrity import check
from even_beam.logbook.store import Logbook


@pytest.fixture
def collection(demo):
    book = Logbook.open_to_read(demo)
    yield Collection(book)
    book.close()


def readings(collection, name: str):
    session = next(s for s in collection.sessions if s.name == name)
    return collection.readings_in(session.id)


def test_it_is_sound_and_invented(demo, collection):
    assert check(demo).sound
    assert {"Yarrow", "Tansy", "Sorrel", "Burdock", "Teasel", "Comfrey", "Bracken", "North window"} == {
        s.nickname for s in collection.sources.values()
    }
    assert len(collection.sessions) == 7


def test_a_lamp_that_was_not_changed_and_a_knocked_dimmer_were_caught(collection):
    doubted = [m for m in readings(collection, "Specimen table: Tansy or tungsten?") if m.state.doubt]
    assert len(doubted) == 2
    assert "The same as the reading before" in doubted[0].state.doubt
    assert "2.5 stops low" in doubted[1].state.doubt
    assert not any(m.state.counts for m in doubted)


def test_terms_were_corrected_afterwards(collection):
    corrected = [m for m in readings(collection, "Specimen table: Tansy or tungsten?") if m.state.corrections]
    assert {m.state.as_taken.distance_m for m in corrected} == {2.5}
    assert {m.terms.distance_m for m in corrected} == {2.0}


def test_one_per_cent_that_gives_ten(collection):
    comfrey = [
        m for m in readings(collection, "Store check, spring") if collection.sources[m.source_id].nickname == "Comfrey"
    ]
    level = {m.terms.level_pct: lux for m in comfrey if m.terms.cct_k == 5600.0 and (lux := m.value("illuminance"))}
    assert level[1.0] / level[100.0] == pytest.approx(0.11, abs=0.01)


def test_a_clean_lamp_has_no_flag(collection):
    for entrant in collection.entrants():
        if entrant.name == "Teasel":
            assert entrant.readings
            assert not any(m.state.doubt or m.state.suspect or m.state.corrections for m in entrant.readings)
            break
    else:
        pytest.fail("Teasel was not read")


def test_the_last_session_resumes_at_its_step(collection):
    session = collection.sessions[-1]
    state, _ = session_state(collection.logbook, session.id)
    assert state.current == 3
    assert state.step.taken == 1

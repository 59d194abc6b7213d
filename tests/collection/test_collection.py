"""A lamp's readings of all sessions stand as they stand in each session, whatever was said of them there."""

from datetime import timedelta

from even_beam.bench.records import Session, new_id
from even_beam.collection.collection import Collection
from even_beam.desk.session.desk import Aside, SessionDesk
from even_beam.logbook.store import Logbook


def words(measured):
    state = measured.state
    numbers = measured.value("illuminance"), measured.value("cct"), measured.ambient_share
    # the last digits depend on how many spectra are evaluated together
    rounded = [None if number is None else float(f"{number:.9g}") for number in numbers]
    return state.standing, state.doubt, state.suspect, state.corrections, measured.terms, rounded


def both_ways_agree(logbook):
    by_lamp = {}
    for session in Collection(logbook).sessions:
        for measured in Collection(logbook).readings_in(session.id):
            if measured.source_id is not None:
                by_lamp.setdefault(measured.source_id, {})[measured.reading.id] = measured
    collection = Collection(logbook)
    assert {lamp.source_id for lamp in collection.lamps()} >= set(by_lamp)
    for source_id, readings in by_lamp.items():
        counted = {i: words(m) for i, m in readings.items() if m.state.counts and m.terms.placement != "shaded"}
        found = [m for entrant in collection.entrants([source_id]) for m in entrant.readings]
        assert {m.reading.id: words(m) for m in found} == counted
        some = list(readings)[::7]
        assert {i: words(m) for i, m in collection.readings(some).items()} == {i: words(readings[i]) for i in some}


def test_in_the_demo(demo):
    logbook = Logbook.open(demo)
    both_ways_agree(logbook)
    logbook.close()


def typed(desk, text):
    return desk.confirm(desk.propose(text), keep_in_doubt=True).measured.reading.id


def test_whatever_was_said(desk, logbook, clock):
    for source, text in (("lamp", "1185"), ("other", "900"), ("lamp", "1190"), ("other", "905"), ("lamp", "1188")):
        desk.free_source = source
        typed(desk, text)
    readings = [m.reading.id for m in desk.measured]
    desk.name_source([readings[1]], "lamp")  # noted for the wrong lamp
    desk.correct_terms([readings[2]], "level_pct", 50.0, "it stood at half")
    desk.set_aside(readings[4], "a door stood open")
    both_ways_agree(logbook)
    assert desk.undo() is not None
    both_ways_agree(logbook)
    desk.read_aside(Aside.ROOM)
    typed(desk, "12")
    both_ways_agree(logbook)
    shares = [m.ambient_share for e in Collection(logbook).entrants(["lamp"]) for m in e.readings]
    assert all(share is not None and 0.009 < share < 0.02 for share in shares)
    desk.something_moved(
        desk.may_have_moved()[0].reading.id
    )  # what it names is a reading of one lamp; it speaks of the other's too
    both_ways_agree(logbook)
    later = SessionDesk(logbook, Session(new_id(), "Later", clock() + timedelta(days=400)), clock)
    logbook.save(later.session)
    later.free_source, later.free_terms, later.free_meter = "lamp", desk.free_terms, desk.free_meter
    back = typed(later, "1150")
    both_ways_agree(logbook)
    later.take_back()
    assert back not in {m.reading.id for e in Collection(logbook).entrants(["lamp"]) for m in e.readings}
    both_ways_agree(logbook)


def test_a_comparison_asks_for_no_more_figures_than_it_needs(demo):
    logbook = Logbook.open(demo)
    collection = Collection(logbook)
    tansy = next(lamp for lamp in collection.lamps() if lamp.name == "Tansy")
    (bare,) = collection.entrants([tansy.source_id], lambda readings: ())
    assert all(m.value("illuminance") is None for m in bare.readings)
    from even_beam.answers.compare.loading import compared
    from even_beam.known import compare

    _, (some,) = compared(collection, [bare], {}, bare.key)
    (whole,) = collection.entrants([tansy.source_id])
    assert len(some.readings) == len(bare.readings) == len(whole.readings)
    assert 0 < sum(m.value("illuminance") is not None for m in some.readings) < len(whole.readings)
    results = [compare.compare([e], {}, tansy.source_id, collection.meters).entries[0] for e in (some, whole)]
    assert results[0].illuminance == results[1].illuminance and results[0].figures == results[1].figures
    logbook.close()

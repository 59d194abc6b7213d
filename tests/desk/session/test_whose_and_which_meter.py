"""Whose the next reading is and which meter it comes from: as it was left, as it was said, and nothing taken over."""

from dataclasses import replace
from datetime import UTC, datetime

import pytest

from even_beam.bench.records import Meter, Session, Source, Step, Terms
from even_beam.desk.session.desk import SessionDesk
from even_beam.desk.session.document import Document
from even_beam.logbook.store import Logbook
from even_beam.shell.settings import Settings
from even_beam.words.entry import EntryError

AT = datetime(2026, 11, 19, 18, tzinfo=UTC)
HAND = Meter("hand", "Light meter", kind="light meter", quantities=("illuminance",))
STAND_IN = Meter("stand-in", "Spectrometer", simulated="spectrometer")


@pytest.fixture
def book(tmp_path):
    book = Logbook.create(tmp_path / "e.evenbeam")
    book.save(Source("one", "Tansy"), Source("two", "Sorrel"), HAND, STAND_IN, Session("s", "Evening", AT))
    yield book
    book.close()


@pytest.fixture
def desk(book) -> SessionDesk:
    return Document(book, Settings(), lambda: AT).work_on(book.sessions()[0])


def read(desk: SessionDesk, line: str) -> None:
    desk.confirm(desk.propose(line), keep_in_doubt=True)


def test_another_lamp_takes_nothing_over_but_where_the_meter_stands(desk):
    desk.turn_to("one")
    read(desk, "820 lx at 2 m dial 5600 50 % spot with dish + full CTO tint +4 reference plane yoke")
    before = desk.free_terms
    desk.turn_to("two")
    there = desk.free_terms
    assert (there.distance_m, there.reference_plane) == (2.0, "yoke")
    assert (there.cct_k, there.level_pct, there.zoom, there.configuration, there.tint) == (None, None, "", (), "")
    read(desk, "410 lx 25 %")
    desk.turn_to("one")
    assert desk.free_terms == before, "it stands as it was left"
    desk.turn_to("two")
    assert desk.free_terms == replace(there, level_pct=25.0)


def test_terms_that_were_set_before_the_first_lamp_was_named_are_its_own(desk):
    desk.settle(desk.propose("dial 4400 at 3 m"))
    desk.turn_to("one")
    assert (desk.free_terms.cct_k, desk.free_terms.distance_m) == (4400.0, 3.0)


def test_a_typed_figure_is_booked_on_no_meter_that_nobody_chose(desk):
    assert desk.meter == STAND_IN, "it stands ready for the key"
    assert desk.asks_for_meter and desk.typed_meter is None
    desk.say_typed_from("hand")
    read(desk, "820 lx")
    assert not desk.asks_for_meter and desk.measured[-1].reading.meter_id == "hand"


def test_which_meter_is_asked_once_an_evening_also_where_it_has_no_name(book, desk):
    desk.say_typed_from(None)
    read(desk, "820 lx")
    assert desk.measured[-1].reading.meter_id is None
    again = Document(book, Settings(), lambda: AT).work_on(book.sessions()[0])
    assert not again.asks_for_meter


def test_a_simulated_meter_that_was_chosen_is_asked_about_all_the_same(desk):
    desk.free_meter = "stand-in"
    assert desk.asks_for_meter and desk.typed_meter is None


def test_a_meter_that_was_chosen_is_not_asked_for(desk):
    desk.free_meter = "hand"
    assert not desk.asks_for_meter and desk.typed_meter == HAND


def test_a_line_may_name_its_lamp_in_any_place(desk):
    read(desk, "Tansy 820 lx at 2 m dial 5600 50 % spot")
    read(desk, "410 lx 25 % sorrel")
    assert [(m.source_id, m.value("illuminance")) for m in desk.measured] == [("one", 820.0), ("two", 410.0)]
    assert (desk.measured[1].terms.zoom, desk.measured[1].terms.cct_k) == ("", None), "nothing of the one before"
    desk.settle(desk.propose("Tansy"))
    assert desk.free_source == "one" and desk.free_terms.zoom == "spot"
    with pytest.raises(EntryError, match="beside another"):
        desk.propose("Tansy 820 lx Sorrel")


def test_a_run_reads_the_lamp_of_its_step(book):
    steps = [Step("a", "s", 1.0, ("one",), Terms(cct_k=5600.0, level_pct=100.0), ("illuminance",), "hand")]
    book.save(*steps)
    run = Document(book, Settings(), lambda: AT).work_on(book.sessions()[0])
    read(run, "Tansy 820 lx")
    assert run.measured[-1].reading.step_id == "a"
    run.go_to("a")
    with pytest.raises(EntryError, match="the step is of Tansy, and the line of Sorrel"):
        run.propose("Sorrel 410 lx")

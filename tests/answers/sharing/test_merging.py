"""Logbooks merged: nothing lost, nothing twice, in whatever order."""

from dataclasses import replace

import pytest

from even_beam.answers.sharing.deciding import Answer, UnknownNameError
from even_beam.answers.sharing.merging import Merged, merge, questions, said_same
from even_beam.bench.records import Gear, Meter, Model, Modifier, Session, Source, ToleranceSet, new_id
from even_beam.bench.sameness import Same
from even_beam.logbook import LogbookError
from even_beam.logbook.store import Logbook
from tests.answers.sharing.benches import NOW, Bench


def into(here: Bench, *others: Bench, said=(), **more) -> Merged:
    """Merge others into a bench's logbook; what came of it."""
    book = Logbook.open(here.path)
    try:
        found = Merged()
        for one in merge(book, [other.path for other in others], NOW, said_same(said), **more):
            found.add(one)
        return found
    finally:
        book.close()


def levels(bench: Bench, lamp: str) -> list[float]:
    """The levels of a lamp's readings over all sessions."""
    book = Logbook.open_to_read(bench.path)
    try:
        (own,) = [source for source in book.all(Source) if source.nickname == lamp]
        return sorted(r.values[0].value for r in book.history_of(own.id, figures=True).readings)
    finally:
        book.close()


def changed(bench: Bench, kind: type, record_id: str, **fields) -> None:
    """Change fields of a record, as the Kit does."""
    book = Logbook.open(bench.path)
    (own,) = [one for one in book.all(kind) if one.id == record_id]
    book.save(replace(own, **fields))
    book.close()


def lamps(bench: Bench) -> dict[str, Source]:
    """The lamps by their names."""
    book = Logbook.open_to_read(bench.path)
    try:
        return {one.nickname: one for one in book.all(Source)}
    finally:
        book.close()


@pytest.fixture
def two(tmp_path):
    """Two benches, each with a Tansy of its own, and another lamp."""
    a, b = Bench(tmp_path / "attic.evenbeam"), Bench(tmp_path / "barn.evenbeam")
    for bench, level, other in ((a, 800.0, "Fennel"), (b, 400.0, "Lovage")):
        session = bench.session(f"Evening of {other}")
        bench.read(session, bench.lamp("Tansy"), level, level + 1)
        bench.read(session, bench.lamp(other), level / 2)
    return a, b


def test_what_is_new_comes_and_the_other_is_left_as_it_is(two):
    a, b = two
    before = b.path.read_bytes()
    found = into(a, b)
    assert (found.sessions, found.readings, found.already) == (1, 3, 0)
    assert b.path.read_bytes() == before
    assert levels(a, "Lovage") == [200.0]


def test_the_same_name_alone_is_another_lamp(two):
    a, b = two
    found = into(a, b)
    assert [(one.there, one.here) for one in found.renamed] == [("Tansy", "Tansy (barn)")]
    assert levels(a, "Tansy") == [800.0, 801.0] and levels(a, "Tansy (barn)") == [400.0, 401.0]


def test_merging_again_changes_nothing(two):
    a, b = two
    into(a, b)
    before = a.everything()
    found = into(a, b)
    assert a.everything() == before
    assert (found.sessions, found.readings, found.already, found.renamed) == (0, 0, 3, [])
    assert found.words == "Nothing is new. 3 readings were there already."


def test_what_was_said_to_be_the_same_is_one_lamp(two):
    a, b = two
    found = into(a, b, said=["Tansy=Tansy"])
    assert found.renamed == [] and ("Tansy", "Tansy", "said") in [(o.there, o.here, o.by) for o in found.joined]
    assert levels(a, "Tansy") == [400.0, 401.0, 800.0, 801.0]
    assert sorted(lamps(a)) == ["Fennel", "Lovage", "Tansy"]


def test_two_names_can_be_one_lamp(two):
    a, b = two
    into(a, b, said=["Lovage=Fennel"])
    assert levels(a, "Fennel") == [200.0, 400.0] and "Lovage" not in lamps(a)


def test_a_name_that_is_nowhere_is_told_before_anything_is_done(two):
    a, b = two
    before = a.everything()
    with pytest.raises(UnknownNameError, match="no lamp or meter “Thyme”"):
        into(a, b, said=["Thyme=Tansy"])
    with pytest.raises(UnknownNameError, match="“Thyme” in attic"):
        into(a, b, said=["Tansy=Thyme"])
    assert a.everything() == before
    with pytest.raises(ValueError, match="no pair of names"):
        said_same(["Tansy"])


def test_one_becomes_two_again(two):
    a, b = two
    into(a, b, said=["Tansy=Tansy"])
    book = Logbook.open(a.path)
    (said,) = [one for one in book.all(Same) if one.what == "source"]
    book.save(Same(new_id(), NOW, said.what, said.one_id, said.other_id, undoes=said.id))
    book.close()
    assert levels(a, "Tansy") == [800.0, 801.0] and levels(a, "Tansy (barn)") == [400.0, 401.0]


def test_the_same_model_and_serial_number_is_the_same_lamp(tmp_path):
    a, b = Bench(tmp_path / "a.evenbeam"), Bench(tmp_path / "b.evenbeam")
    for bench, name, serial, level in ((a, "Tansy", "S-17", 800.0), (b, "Key left", " s-17", 780.0)):
        bench.read(bench.session("Evening"), bench.lamp(name, "Garden six", serial), level)
    b.lamp("Key right", "Garden six", "S-18")
    found = into(a, b)
    by_serial = [(one.there, one.here) for one in found.joined if one.by == "model and serial number"]
    assert by_serial == [("Key left", "Tansy")]
    assert levels(a, "Tansy") == [780.0, 800.0] and "Key right" in lamps(a)
    book = Logbook.open_to_read(a.path)
    assert [model.name for model in book.all(Model)] == ["Garden six"], "a make is what it is called"
    book.close()


def test_the_same_serial_number_of_another_model_is_another_lamp(tmp_path):
    a, b = Bench(tmp_path / "a.evenbeam"), Bench(tmp_path / "b.evenbeam")
    a.lamp("Tansy", "Garden six", "1")
    b.lamp("Fennel", "Garden two", "1")
    assert [one.by for one in into(a, b).joined] == []
    assert sorted(lamps(a)) == ["Fennel", "Tansy"]


def test_the_window_asks_and_is_answered(two):
    a, b = two
    book = Logbook.open(a.path)
    (question,) = questions(book, b.path, NOW)
    book.close()
    assert question.name == "Tansy" and question.is_of_lamps
    into(a, b, answers=lambda asked: Answer.SAME)
    assert levels(a, "Tansy") == [400.0, 401.0, 800.0, 801.0]


def test_another_unit_is_of_the_same_model(tmp_path):
    a, b = Bench(tmp_path / "a.evenbeam"), Bench(tmp_path / "b.evenbeam")
    a.lamp("Tansy", "Garden six")
    b.lamp("Tansy", "Six")
    into(a, b, answers=lambda asked: Answer.UNIT)
    own = lamps(a)
    assert own["Tansy (b)"].model_id == own["Tansy"].model_id


def test_meters_are_told_apart_as_lamps_are(tmp_path):
    a, b = Bench(tmp_path / "a.evenbeam"), Bench(tmp_path / "b.evenbeam")
    for bench in (a, b):
        bench.read(
            bench.session("Evening"),
            bench.lamp(f"Lamp of {bench.path.stem}"),
            100.0,
            meter_id=bench.meter("Wall meter"),
        )
    assert [one.here for one in into(a, b).renamed] == ["Wall meter (b)"]
    into(a, b, said=["Wall meter=Wall meter"])
    book = Logbook.open_to_read(a.path)
    used = {r.meter_id for s in book.sessions() for r in book.readings(s.id)}
    meters = {meter.nickname: meter.id for meter in book.all(Meter)}
    book.close()
    assert meters.keys() == {"Wall meter"} and used == set(meters.values()), "said later, two become one"


def test_both_grew_the_same_session(tmp_path):
    a = Bench(tmp_path / "a.evenbeam")
    session, lamp = a.session("Evening"), a.lamp("Tansy")
    a.read(session, lamp, 100.0, 101.0)
    b = a.copy(tmp_path / "b.evenbeam")
    a.read(session, lamp, 102.0)
    b.read(session, lamp, 103.0, 104.0)
    found = into(a, b)
    into(b, a)
    assert (found.sessions, found.readings, found.already) == (0, 2, 2)
    assert a.everything() == b.everything()
    assert levels(a, "Tansy") == [100.0, 101.0, 102.0, 103.0, 104.0]
    a.read(session, lamp, 105.0)
    assert max(row[3] for row in a.rows("reading")) == 5


def test_of_a_field_that_both_changed_the_later_stands_and_the_other_is_told(tmp_path):
    a = Bench(tmp_path / "a.evenbeam")
    lamp = a.lamp("Tansy", notes="new")
    b = a.copy(tmp_path / "b.evenbeam")
    changed(a, Source, lamp, notes="from the attic", supplied_by="Shop")
    changed(b, Source, lamp, notes="from the barn")
    found = into(a, b)
    (dispute,) = found.conflicts
    assert (dispute.what, dispute.here, dispute.there) == ("Tansy: notes", "from the attic", "from the barn")
    assert dispute.kept == "from the barn" == lamps(a)["Tansy"].notes and lamps(a)["Tansy"].supplied_by == "Shop"
    into(b, a)
    assert a.everything() == b.everything()
    assert '"from the attic"' in {row[6] for row in a.rows("change")}, "the other stays in its history"
    assert into(a, b).conflicts == []


def test_what_was_changed_after_hearing_of_a_change_is_later_whatever_the_clock_says(tmp_path, monkeypatch):
    a = Bench(tmp_path / "a.evenbeam")
    lamp = a.lamp("Tansy")
    b = a.copy(tmp_path / "b.evenbeam")
    monkeypatch.setattr("even_beam.logbook.changes.datetime", Ahead)
    changed(a, Source, lamp, notes="by a clock two days ahead")
    monkeypatch.undo()
    into(b, a)
    changed(b, Source, lamp, notes="afterwards")
    assert into(a, b).conflicts == []
    assert lamps(a)["Tansy"].notes == "afterwards"


class Ahead:
    """A clock that goes two days ahead."""

    from datetime import datetime as _real

    fromisoformat = _real.fromisoformat

    @classmethod
    def now(cls, zone):
        from datetime import timedelta

        return cls._real.now(zone) + timedelta(days=2)


def test_what_was_taken_out_stays_out_unless_the_other_used_it(tmp_path):
    a = Bench(tmp_path / "a.evenbeam")
    lamp, other = a.lamp("Tansy"), a.lamp("Fennel")
    b = a.copy(tmp_path / "b.evenbeam")
    b.read(b.session("Evening"), other, 100.0)
    book = Logbook.open(a.path)
    book.exchange([one for one in book.all(Source) if one.id in {lamp, other}], [])
    book.close()
    into(a, b)
    into(b, a)
    assert sorted(lamps(a)) == sorted(lamps(b)) == ["Fennel"]
    into(a, b)
    assert a.everything() == b.everything()


def test_what_was_taken_out_and_put_back_is_there(tmp_path):
    a = Bench(tmp_path / "a.evenbeam")
    lamp = a.lamp("Tansy")
    b = a.copy(tmp_path / "b.evenbeam")
    book = Logbook.open(a.path)
    (own,) = book.all(Source)
    book.exchange([own], [])
    book.save(own)
    book.close()
    into(b, a)
    assert lamps(b)["Tansy"].id == lamp


def test_a_modifier_is_what_it_is_called_and_limits_of_one_name_stand_side_by_side(tmp_path):
    a, b = Bench(tmp_path / "a.evenbeam"), Bench(tmp_path / "b.evenbeam")
    for bench, least in ((a, 90.0), (b, 92.0)):
        book = Logbook.open(bench.path)
        book.save(Modifier(new_id(), "softbox"), ToleranceSet(new_id(), "skin", "skin", {"ra": least}))
        book.save(ToleranceSet(new_id(), "effects", "effects", {"ra": 80.0}))
        book.close()
    found = into(a, b)
    assert [(one.there, one.by) for one in found.joined] == [("softbox", "name")]
    assert [one.here for one in found.renamed] == ["skin (b)"]
    book = Logbook.open_to_read(a.path)
    assert sorted(one.name for one in book.all(ToleranceSet)) == ["effects", "skin", "skin (b)"]
    assert len(book.all(Modifier)) == 1
    book.close()


def test_a_logbook_is_not_merged_into_itself_and_what_is_none_is_told(two, tmp_path):
    a, _ = two
    with pytest.raises(LogbookError, match="is this logbook itself"):
        into(a, a)
    (tmp_path / "list.evenbeam").write_text("lamp,lux\n")
    before = a.everything()
    with pytest.raises(LogbookError):
        into(a, Bench(tmp_path / "list.evenbeam"))
    with pytest.raises(LogbookError, match="There is no"):
        book = Logbook.open(a.path)
        try:
            list(merge(book, [tmp_path / "none.evenbeam"], NOW, {}))
        finally:
            book.close()
    assert a.everything() == before


def test_an_older_format_is_taken_in_and_left_as_it_is(two):
    from tests.logbook.older_formats import FORMATS, LEVELS, closed

    a, _ = two
    for number in FORMATS:
        older = closed(number, a.path.with_name(f"older{number}.evenbeam"))
        before = older.read_bytes()
        into(a, Bench(older))
        assert older.read_bytes() == before
    assert levels(a, "Tansy (older1)") == list(LEVELS[:3]), "the same lamp in all of them, by its identity"


def test_claims_of_a_make_come_with_it(tmp_path):
    a, b = Bench(tmp_path / "a.evenbeam"), Bench(tmp_path / "b.evenbeam")
    a.lamp("Tansy", "Garden six")
    b.lamp("Fennel", "Garden six")
    model = lamps(b)["Fennel"].model_id
    book = Logbook.open(b.path)
    book.save(Gear(new_id(), model, "weight", "2.4 kg"))
    book.close()
    into(a, b)
    book = Logbook.open_to_read(a.path)
    (gear,) = book.all(Gear)
    assert {one.model_id for one in book.all(Source)} == {gear.model_id}
    book.close()


def test_a_session_that_cannot_be_read_is_left_out_whole(two):
    import sqlite3

    a, b = two
    good = b.session("Sound")
    b.read(good, lamps(b)["Lovage"].id, 50.0)
    with sqlite3.connect(b.path) as connection:
        connection.execute("UPDATE reading SET distance_m = 'far' WHERE session_id != ?", (good,))
    connection.close()
    found = into(a, b)
    assert (found.sessions, found.readings) == (1, 1)
    book = Logbook.open_to_read(a.path)
    assert sorted(one.name for one in book.all(Session)) == ["Evening of Fennel", "Sound"]
    book.close()


def test_a_make_that_was_taken_out_takes_its_rows_with_it(tmp_path):
    a = Bench(tmp_path / "a.evenbeam")
    a.lamp("Tansy", "Garden six")
    book = Logbook.open(a.path)
    (model,) = book.all(Model)
    book.save(Gear(new_id(), model.id, "weight", "2.4 kg"))
    book.close()
    b = a.copy(tmp_path / "b.evenbeam")
    book = Logbook.open(a.path)
    book.exchange([*book.all(Model), *book.all(Source), *book.all(Gear)], [])
    book.close()
    into(b, a)
    assert b.rows("model") == b.rows("source") == b.rows("gear") == set()


def test_names_that_differ_in_large_letters_alone_are_one_name(tmp_path):
    a, b = Bench(tmp_path / "a.evenbeam"), Bench(tmp_path / "b.evenbeam")
    a.lamp("Tansy")
    b.lamp("TANSY")
    assert [one.here for one in into(a, b).renamed] == ["TANSY (b)"]


def test_copies_that_differ_without_a_word_of_it_come_to_one(tmp_path):
    """As those of earlier formats may, which kept no changes: what was written stands before what was not."""
    import sqlite3

    a = Bench(tmp_path / "a.evenbeam")
    a.lamp("Tansy", notes="")
    b = a.copy(tmp_path / "b.evenbeam")
    for bench, note, shop in ((a, "", "Shop"), (b, "arrived dented", "")):
        with sqlite3.connect(bench.path) as connection:
            connection.execute("UPDATE source SET notes = ?, supplied_by = ?", (note, shop))
        connection.close()
    into(a, b)
    into(b, a)
    assert a.everything() == b.everything()
    assert (lamps(a)["Tansy"].notes, lamps(a)["Tansy"].supplied_by) == ("arrived dented", "Shop")


def test_sessions_of_one_day_and_name_are_told_apart(tmp_path):
    from even_beam.collection.collection import Collection

    a, b = Bench(tmp_path / "a.evenbeam"), Bench(tmp_path / "b.evenbeam")
    for bench in (a, b):
        bench.session("First evening")
    into(a, b)
    book = Logbook.open_to_read(a.path)
    assert sorted(Collection(book).session_names.values()) == [
        "3 Sep 2026, First evening", "3 Sep 2026, First evening (2)",
    ]  # fmt: skip
    book.close()

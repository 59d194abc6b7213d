"""Two lamps or meters said to be one in the Kit's line, two again, and both undone."""

from datetime import date

import pytest

from even_beam.answers.kit.all_shelves import shelves_of
from even_beam.answers.kit.shelf import ShelfName
from even_beam.bench.records import Meter, Source
from even_beam.desk.kit.desk import KitDesk
from even_beam.desk.kit.form_error import FormError
from even_beam.logbook.store import Logbook
from tests.answers.sharing.benches import Bench


@pytest.fixture
def kit(tmp_path):
    bench = Bench(tmp_path / "a.evenbeam")
    session = bench.session("Evening")
    for lamp, level in (("Tansy", 800.0), ("Tansy (barn)", 780.0), ("Fennel", 90.0)):
        bench.read(session, bench.lamp(lamp), level, meter_id=bench.meter(f"Meter of {lamp}"))
    book = Logbook.open(bench.path)
    yield KitDesk(book)
    book.close()


def told(kit: KitDesk, lamp: str) -> list[float]:
    (own,) = [one for one in kit.logbook.all(Source) if one.nickname == lamp]
    return sorted(r.values[0].value for r in kit.logbook.history_of(own.id, figures=True).readings)


def said(kit: KitDesk, lamp: str, text: str) -> str:
    shelf = shelves_of(kit, date(2026, 12, 2))[ShelfName.LAMPS]
    (key,) = [thing.key for thing in shelf.things() if thing.name == lamp]
    assert shelf.understood(text, key)
    return shelf.say(text, key)[1]


@pytest.mark.parametrize(
    "text", ["same as tansy (barn)", "is the same lamp as Tansy (barn)", "the same as Tansy (barn)"]
)
def test_two_are_one_and_two_again(kit, text):
    assert said(kit, "Tansy", text).startswith("Tansy (barn) is Tansy from here on")
    assert told(kit, "Tansy") == [780.0, 800.0]
    assert [card.source.nickname for card in kit.lamps()] == ["Fennel", "Tansy"]
    said(kit, "Tansy", "two again")
    assert told(kit, "Tansy") == [800.0] and told(kit, "Tansy (barn)") == [780.0]


def test_it_is_undone_and_done_again_as_often_as_wanted(kit):
    said(kit, "Tansy", "same as Tansy (barn)")
    for _ in range(3):
        assert kit.undo() == "Tansy (barn) is Tansy"
        assert told(kit, "Tansy") == [800.0]
        kit.redo()
        assert told(kit, "Tansy") == [780.0, 800.0]
    said(kit, "Tansy", "not the same")
    for _ in range(2):
        kit.undo()
        assert told(kit, "Tansy") == [780.0, 800.0]
        kit.redo()
        assert told(kit, "Tansy") == [800.0]


def test_three_are_one(kit):
    said(kit, "Tansy", "same as Tansy (barn)")
    said(kit, "Fennel", "same as Tansy")
    assert told(kit, "Fennel") == [90.0, 780.0, 800.0]


def test_what_is_not_there_is_told(kit):
    with pytest.raises(FormError, match="no other “Thyme”"):
        said(kit, "Tansy", "same as Thyme")
    with pytest.raises(FormError, match="never joined"):
        said(kit, "Tansy", "two again")


def test_meters_too(kit):
    shelf = shelves_of(kit, date(2026, 12, 2))[ShelfName.METERS]
    (key,) = [thing.key for thing in shelf.things() if thing.name == "Meter of Tansy"]
    shelf.say("same as Meter of Fennel", key)
    assert "Meter of Fennel" not in [meter.nickname for meter in kit.logbook.all(Meter)]
    assert kit.logbook.uses_of_meter(key) == 2

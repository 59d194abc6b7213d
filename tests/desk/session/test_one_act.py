"""One act is one transaction and one undo: what fails leaves all as it was, and undo takes back what was done last."""

import sqlite3

import pytest

from even_beam.bench.records import Calibration, Conditions, EventKind, Meter, Reading, Source, Terms, new_id
from even_beam.bench.target import Look, Target
from even_beam.desk.kit.desk import KitDesk
from even_beam.desk.kit.lamp_form import LampForm, form_of
from even_beam.desk.session.document import Document
from even_beam.logbook import LogbookError
from even_beam.logbook.store import Logbook
from even_beam.shell.settings import Settings


@pytest.fixture
def document(logbook, clock) -> Document:
    logbook.save(Source("tansy", "Tansy"), Meter("m", "Hand meter", kind="light meter"))
    return Document(logbook, Settings(), clock)


class FailsAt:
    """A connection that fails at a statement, as a disk does that is full just then."""

    def __init__(self, connection: sqlite3.Connection, at: int) -> None:
        self._connection, self._left = connection, at

    def _counted(self) -> None:
        self._left -= 1
        if self._left == 0:
            raise sqlite3.OperationalError("database or disk is full")

    def execute(self, statement, *given):
        if statement.startswith(("INSERT", "UPDATE", "DELETE", "COMMIT")):
            self._counted()
        return self._connection.execute(statement, *given)

    def executemany(self, statement, rows):
        self._counted()
        return self._connection.executemany(statement, rows)

    def __getattr__(self, name):
        return getattr(self._connection, name)


def known(book: Logbook) -> str:
    """All that the Kit knows, as text."""
    return "\n".join(
        str(row)
        for table in ("model", "source", "claim", "cost", "gear", "modifier", "meter", "event")
        for row in book._connection.execute(f"SELECT * FROM {table} ORDER BY id").fetchall()
    )


def edited(kit: KitDesk) -> None:
    card = kit.lamps()[0]
    form = form_of(card)
    kit.edit_lamp(card, LampForm(**{**{n: getattr(form, n) for n in form.__slots__}, "nickname": "Tansy two"}))


EDITS = {
    "a lamp edited": edited,
    "a lamp added": lambda kit: kit.add_lamp(LampForm("Sorrel", claims={"ra": "90"}, price="300")),
    "gels owned": lambda kit: kit.own_gels(["half CTB", "full CTO"]),
    "undone": lambda kit: kit.undo(),
}


@pytest.mark.parametrize("edit", EDITS.values(), ids=EDITS)
def test_an_edit_of_the_kit_that_fails_anywhere_changes_nothing(logbook, edit):
    """Claims and prices were lost once, and undo offered something else."""
    kit = KitDesk(logbook)
    kit.add_lamp(LampForm("Tansy", model="Garden six", claims={"ra": "95", "illuminance": "9800"}, price="820"))
    kit.own_gels(["quarter CTB"])
    connection, before = logbook._connection, known(logbook)
    for at in range(1, 40):
        logbook._connection = FailsAt(connection, at)
        try:
            edit(kit)
            break
        except LogbookError as error:
            assert "disk is full" in str(error)
        finally:
            logbook._connection = connection
        assert known(logbook) == before
    else:
        pytest.fail("it never came through")
    assert at > 2
    assert known(logbook) != before
    if edit is not EDITS["undone"]:
        kit.undo()
        assert known(logbook) == before


def test_undo_takes_back_a_look_a_room_a_calibration_and_a_decision_in_turn(document):
    desk, book = document.begin("Evening"), document.logbook
    desk.set_target(Target(5600.0, 0.003))
    look = desk.keep_look("north window")
    desk.note_room(Conditions(new_id(), desk.session.id, desk.now(), "blacked out", ambient_lx=0.4))
    desk.free_meter = "m"
    desk.note_room(None, [(Calibration(new_id(), "m", desk.now(), "zeroing", "zeroed on Tansy"), "Tansy")])
    desk.describe(type(desk.session)(**{**_fields(desk.session), "decision": "back by Friday"}))
    desk.dark_calibrated()
    assert (len(book.all(Look)), len(desk.conditions()), len(book.all(Calibration))) == (1, 1, 2)
    assert desk.undo() == str(EventKind.DARK_CALIBRATED)
    assert len(book.all(Calibration)) == 1
    assert desk.undo() == str(EventKind.DESCRIBED)
    assert (desk.session.decision, book.sessions()[0].decision) == ("", "")
    assert desk.undo() == str(EventKind.CALIBRATED)
    assert (book.all(Calibration), book.all(Meter)[0].zeroed_on, desk.meters["m"].zeroed_on) == ([], "", "")
    assert desk.undo() == str(EventKind.ROOM_NOTED)
    assert desk.conditions() == []
    assert desk.undo() == str(EventKind.LOOK_KEPT)
    assert book.all(Look) == []
    for _ in range(5):
        assert desk.redo()
    assert book.all(Look) == [look]
    assert (len(desk.conditions()), len(book.all(Calibration))) == (1, 2)
    assert (book.sessions()[0].decision, book.all(Meter)[0].zeroed_on) == ("back by Friday", "Tansy")


def _fields(session) -> dict:
    return {name: getattr(session, name) for name in session.__slots__}


def test_an_exposure_is_kept_with_its_figure_or_not_at_all(document):
    desk = document.begin("Evening")
    desk.free_source, desk.free_meter = "tansy", "m"
    desk.free_terms = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
    before = len(desk.state.live_events)
    desk.confirm(desk.propose("f/8 iso 800 1/50"))
    assert [e.kind for e in desk.state.live_events[before:]] == [EventKind.TAKEN, EventKind.EXPOSURE_STATED]
    desk.undo()
    assert {e.kind for e in desk.state.live_events[before:]} == {EventKind.UNDONE}
    assert desk.counted == ()


def test_a_table_that_cannot_be_kept_leaves_no_lamp_and_no_session(document, tmp_path):
    from even_beam.answers.intake.importing import import_files

    table = tmp_path / "old.csv"
    table.write_text("session,fixture,cct_k,quantity,value,unit,meter\nOld,Burdock,5600,illuminance,820,lx,Old meter\n")
    book = document.logbook
    connection = book._connection
    for at in range(1, 30):
        book._connection = FailsAt(connection, at)
        try:
            import_files([table], book, document.clock)
            break
        except LogbookError:
            pass
        finally:
            book._connection = connection
        assert (book.sessions(), len(book.all(Source)), len(book.all(Meter))) == ([], 1, 1)
    assert at > 4
    assert (len(book.sessions()), len(book.all(Source)), len(book.all(Meter))) == (1, 2, 2)
    assert isinstance(book.readings(book.sessions()[0].id)[0], Reading)


def test_several_terms_corrected_over_a_stretch_are_one_undo(document):
    desk = document.begin("Evening")
    desk.free_source, desk.free_meter = "tansy", "m"
    desk.free_terms = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
    ids = [desk.confirm(desk.propose(text), keep_in_doubt=True).measured.reading.id for text in ("800 lx", "802 lx")]
    desk.correct_all(ids, {"distance_m": 3.0, "zoom": "spot"})
    assert {(m.terms.distance_m, m.terms.zoom) for m in desk.counted} == {(3.0, "spot")}
    desk.undo()
    assert {(m.terms.distance_m, m.terms.zoom) for m in desk.counted} == {(2.0, "")}
    assert len(desk.counted) == 2


def test_a_mended_reading_keeps_its_exposure_and_its_spectrum_and_is_looked_at(document, clock):
    from even_beam.desk.session.situation import situation_of
    from even_beam.said import understand

    desk = document.begin("Evening")
    desk.free_source, desk.free_meter = "tansy", "m"
    desk.free_terms = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
    first = desk.confirm(desk.propose("f/8 iso 800 1/50")).measured
    assert first.state.exposure is not None
    mended = desk.mend(first.reading.id, understand("f/5.6", situation_of(desk, of=first, asked=("f_stop",))))
    assert mended.measured.state.exposure == first.state.exposure
    for level, lux in ((50.0, "400 lx"), (25.0, "200 lx"), (10.0, "80 lx")):
        desk.free_terms = Terms(cct_k=5600.0, level_pct=level, distance_m=2.0)
        last = desk.confirm(desk.propose(lux), keep_in_doubt=True).measured
    wrong = desk.mend(last.reading.id, understand("8000 lx", situation_of(desk, of=last, asked=("illuminance",))))
    assert wrong.look.in_doubt
    assert desk.of(wrong.measured.reading.id).state.doubt

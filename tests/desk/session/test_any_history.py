"""Whatever is done at the bench, in any order and killed at any point, the logbook explains every figure shown."""

from datetime import UTC, datetime
from pathlib import Path
from tempfile import TemporaryDirectory

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from even_beam.bench.planning.sweep import Sweep, run_sheet
from even_beam.bench.records import Event, EventKind, Session, Source, Step
from even_beam.bench.run import Standing, fold, live_events
from even_beam.bench.target import Target
from even_beam.desk.session.desk import Aside, SessionDesk
from even_beam.logbook.store import Logbook
from tests.conftest import LIGHT_METER

ACTS = (
    "take",
    "take",
    "take",
    "doubtful",
    "keep",
    "again",
    "back",
    "terms",
    "aside",
    "moved",
    "go",
    "insert",
    "skip",
    "undo",
    "undo far back",
    "redo",
    "note",
    "room",
    "shows",
    "target",
    "kill",
)
EXPLAINED_BY = {
    Standing.TAKEN_BACK: {EventKind.TAKEN_BACK, EventKind.UNDONE},
    Standing.SET_ASIDE: {EventKind.SET_ASIDE},
    Standing.SUPERSEDED: {EventKind.SUPERSEDED},
}
NOON = datetime(2026, 3, 5, 12, tzinfo=UTC)


def clock() -> datetime:
    return NOON


def begun(path: Path) -> SessionDesk:
    logbook = Logbook.create(path)
    session = Session("evening", "Evening", NOON)
    sweep = Sweep(("lamp",), (5600.0,), (100.0, 50.0, 25.0), (2.0,), repeats=2)
    logbook.save(Source("lamp", "Tansy"), LIGHT_METER, session, *run_sheet(sweep, session.id, LIGHT_METER))
    return SessionDesk(logbook, session, clock)


def resumed(desk: SessionDesk) -> SessionDesk:
    """The same session in another process, after this one was killed: nothing is passed on but the file."""
    path = desk.logbook.path
    desk.logbook.close()
    logbook = Logbook.open(path)
    return SessionDesk(logbook, logbook.sessions()[0], clock)


def do(desk: SessionDesk, act: str, place: int) -> SessionDesk:
    readings = [m.reading.id for m in desk.measured]
    chosen = readings[place % len(readings)] if readings else None
    steps = desk.state.steps
    if act in {"take", "doubtful", "keep"}:
        level = 1000.0 * (desk.next_terms.level_pct or 100.0) / 100.0 * (3.0 if act != "take" else 1.0)
        proposal = desk.propose(f"{level:.0f} lx")
        if proposal.look.in_doubt and act == "doubtful":
            desk.withdraw(proposal)
        else:
            desk.confirm(proposal, keep_in_doubt=True)
    elif act == "room":
        desk.read_aside(Aside.ROOM)
        desk.confirm(desk.propose("4 lx"), keep_in_doubt=True)
    elif act == "go":
        desk.go_to(steps[place % len(steps)].step.id)
    elif act == "insert":
        desk.insert_step(desk.next_terms)
    elif act == "kill":
        return resumed(desk)
    elif act == "moved":
        if stretch := desk.may_have_moved():
            desk.something_moved(stretch[place % len(stretch)].reading.id)
    elif act in {"again", "back", "skip", "undo", "redo"}:
        {
            "again": desk.ask_again,
            "back": desk.take_back,
            "skip": desk.skip,
            "undo": desk.undo,
            "redo": desk.redo,
        }[act]()
    elif chosen is not None:
        mark(desk, act, chosen)
    return desk


def mark(desk: SessionDesk, act: str, chosen: str) -> None:
    if act == "terms":
        desk.correct_terms([chosen], "level_pct", 33.0)
    elif act == "shows":
        desk.lamp_shows(chosen, {"level_pct": 91.0})
    elif act == "aside":
        desk.set_aside(chosen, "aim was off")
    elif act == "note":
        desk.note("fan came on", chosen)
    elif act == "undo far back":
        desk.undo_on(chosen)
    elif act == "target":
        desk.set_target(Target(5600.0))


def explained(desk: SessionDesk) -> None:
    book, session = desk.logbook, desk.session.id
    events = book.of_session(Event, session)
    kept = book.readings(session)
    assert desk.state == fold(book.of_session(Step, session), kept, events)  # the screen shows what is on the disk
    rooms = [m for m in desk.measured if m.terms.mode == "off" and m.state.counts]
    for measured in desk.measured:
        if measured.ambient is not None:  # what is taken off can be followed to a reading that counts
            assert measured.ambient.reading_id in {m.reading.id for m in rooms}
    assert sorted(e.sequence for e in events) == sorted({e.sequence for e in events})
    live = live_events(events)
    for state in desk.state.readings:
        own = [e for e in live if e.reading_id == state.reading.id]
        if state.standing is Standing.COUNTED:
            assert any(e.kind is EventKind.TAKEN for e in own)
        else:
            explaining = {e.kind for e in events if e.reading_id == state.reading.id} | {
                e.kind for e in events if e.undoes
            }
            assert explaining & EXPLAINED_BY[state.standing]
        assert state.reading.values == next(r for r in kept if r.id == state.reading.id).values
        corrections = [e for e in own if e.kind in (EventKind.TERMS_CORRECTED, EventKind.LAMP_SHOWS)]
        assert (state.reading.terms != state.as_taken) <= bool(corrections)
        assert bool(state.doubt) <= any(e.kind is EventKind.IN_DOUBT for e in own)
        assert state.suspect <= any(e.kind is EventKind.SUSPECT_FROM for e in live)


@settings(max_examples=40, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(st.lists(st.tuples(st.sampled_from(ACTS), st.integers(0, 7)), max_size=18))
def test_any_history_explains_every_figure(acts):
    with TemporaryDirectory() as folder:
        desk = begun(Path(folder) / "any.evenbeam")
        count = 0
        for act, place in acts:
            desk = do(desk, act, place)
            assert len(desk.measured) >= count  # nothing that was read is ever gone
            count = len(desk.measured)
            explained(desk)
        last = resumed(desk)
        explained(last)
        last.logbook.close()

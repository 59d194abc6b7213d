"""The scenario: what the unit read over two years, with the troubles that a real bench has.

May the six-emitter lamp replace tungsten and blue gel on the specimen table, yes or back by Friday?
"""

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from importlib.resources import as_file, files
from pathlib import Path

from even_beam.answers.intake.importing import import_table
from even_beam.bench.planning.costs import Costs
from even_beam.bench.planning.sweep import Sweep, run_sheet
from even_beam.bench.records import Conditions, Meter, Origin, Session, Source, Terms, Value, new_id
from even_beam.bench.target import Target
from even_beam.demo.camera_evening import camera_evening
from even_beam.demo.kit import LIGHT_METER, SPECTROMETER, stock
from even_beam.desk.session.desk import Aside, SessionDesk
from even_beam.desk.session.instruments_at_hand import Instruments
from even_beam.files.writing import temporary_beside
from even_beam.logbook.beside import clear_away
from even_beam.logbook.creation import replace_logbook
from even_beam.logbook.store import Logbook


class DemoClock:
    """A clock that the script moves."""

    def __init__(self, start: datetime) -> None:
        self.now = start

    def __call__(self) -> datetime:
        """The present moment of the script."""
        return self.now

    def pass_seconds(self, seconds: float) -> None:
        """Let time go by."""
        self.now += timedelta(seconds=seconds)


@dataclass(slots=True)
class _Bench:
    """Everything a session of the script needs."""

    logbook: Logbook
    clock: DemoClock
    instruments: Instruments
    lamps: dict[str, Source]

    def session(self, name: str, start: datetime, question: str, decision: str, disclosure: str) -> Session:
        self.clock.now = start
        session = Session(
            id=new_id(),
            name=name,
            created_at=start,
            zone="Europe/Lisbon",
            question=question,
            decision=decision,
            disclosure=disclosure,
        )
        self.logbook.save(session)
        self.logbook.save(
            Conditions(
                id=new_id(),
                session_id=session.id,
                at=start,
                room="potting shed, blacked out, white bench covered",
                ambient_lx=0.4,
                temperature_c=19.5,
                mains_v=229.0,
            )
        )
        return session

    def run(self, session: Session, sweep: Sweep, meter: Meter) -> SessionDesk:
        self.logbook.save(*run_sheet(sweep, session.id, meter))
        desk = SessionDesk(self.logbook, session, self.clock)
        desk.dark_calibrated()
        return desk

    def pass_time(self, desk: SessionDesk, reading_s: float) -> None:
        """What setting the lamp and reading it takes; this unit needs a little longer than is usual."""
        before = desk.measured[-1] if desk.measured else None
        same_lamp = before is not None and before.reading.source_ids == desk.next_sources
        change = Costs().change(before.terms if before is not None else None, desk.next_terms, same_lamp)
        self.clock.pass_seconds(reading_s + 1.3 * change)

    def read(self, desk: SessionDesk, *, lamp_at: Terms | None = None) -> bool:
        """Set the lamp as the step asks (or as `lamp_at` says it really stands) and read; whether it was in doubt."""
        self.pass_time(desk, 9.0)
        sources = [desk.sources[i] for i in desk.next_sources]
        self.instruments.set_lamps(sources, lamp_at or desk.next_terms)
        taken = desk.take(self.instruments.meter(SPECTROMETER).read())
        return taken.look.in_doubt

    def read_room(self, desk: SessionDesk) -> None:
        """The room alone, lamp off, with the meter at the mark."""
        self.clock.pass_seconds(20.0)
        desk.read_aside(Aside.ROOM)
        self.instruments.set_lamps([], desk.next_terms)
        desk.take(self.instruments.meter(SPECTROMETER).read())

    def read_all(self, desk: SessionDesk, leave: int = 0) -> None:
        """Read steps until only `leave` are left; what stays in doubt when read again is kept, being the lamp."""
        while sum(not s.done for s in desk.state.steps) > leave:
            doubted = self.read(desk)
            if doubted and self.read(desk) and (pending := desk.pending_doubt) is not None:
                desk.keep_in_doubt(pending.reading.id)


def build(path: Path, told: Callable[[int, int, str], None] = lambda done, of, words: None) -> None:
    """Write the demo logbook to `path`, replacing what is there once the new one is whole; `told` how far it is.

    Raises `LogbookError`, and `OSError` where there is no room.
    """
    path.parent.mkdir(parents=True, exist_ok=True)
    building = temporary_beside(path).with_suffix(path.suffix)
    try:
        _play(building, told)
        replace_logbook(building, path)
    finally:
        clear_away(building)


def _play(path: Path, told: Callable[[int, int, str], None]) -> None:
    logbook = Logbook.create(path)
    clock = DemoClock(datetime(2024, 10, 12, 18, 5, tzinfo=UTC))
    try:
        bench = _Bench(logbook, clock, Instruments(clock, seed=417), stock(logbook))
        for done, (words, evening) in enumerate(_EVENINGS):
            told(done, len(_EVENINGS), words)
            evening(bench)
    finally:
        logbook.close()


def _old_spreadsheet(bench: _Bench) -> None:
    with as_file(files("even_beam.demo") / "store-2024.csv") as path:
        import_table(path, bench.logbook, bench.clock)


def _ids(bench: _Bench, *names: str) -> tuple[str, ...]:
    return tuple(bench.lamps[name].id for name in names)


def _store_check(bench: _Bench) -> None:
    """A yearly look at the store: the budget panel's 1 % gives 10 %, and the panel leans to magenta."""
    session = bench.session(
        "Store check, spring",
        datetime(2026, 3, 14, 17, 30, tzinfo=UTC),
        "What do the lamps in the store really do, compared with what is dialled?",
        "Keep all three. Comfrey only for background: green, and its 1 % is 11 %.",
        "All lamps are the garden's own.",
    )
    sweep = Sweep(
        _ids(bench, "Sorrel", "Teasel", "Comfrey"),
        (5600.0, 4400.0, 3200.0),
        (100.0, 50.0, 25.0, 10.0, 5.0, 1.0),
        (2.0,),
    )
    desk = bench.run(session, sweep, SPECTROMETER)
    bench.read_all(desk)
    _plug_meter(bench, desk)


# Volt-amperes, watts and volts at full level, as a plug meter showed them.
_DRAWN = {"Sorrel": (214.0, 205.0, 228.0), "Teasel": (161.0, 149.0, 228.0), "Comfrey": (172.0, 96.0, 227.0)}


def _plug_meter(bench: _Bench, desk: SessionDesk) -> None:
    """What the three draw, typed off a plug meter: Comfrey's power factor is poor."""
    terms = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
    for name, drawn in _DRAWN.items():
        bench.clock.pass_seconds(30.0)
        units = zip(("power_va", "power_w", "voltage_v"), drawn, ("VA", "W", "V"), strict=True)
        values = [Value(quantity, figure, Origin.TYPED, text=f"{figure:g} {unit}") for quantity, figure, unit in units]
        desk.take_figures(values, "plug meter", of=(_ids(bench, name), terms))


def _specimen_table(bench: _Bench) -> None:
    """The question of the week, with a lamp not changed, a knocked dimmer and a distance noted wrong."""
    session = bench.session(
        "Specimen table: Tansy or tungsten?",
        datetime(2026, 11, 17, 18, 10, tzinfo=UTC),
        "May Tansy replace Yarrow with a full blue gel on the specimen table, yes or back by Friday?",
        "Not decided yet: the petals still have to be looked at side by side.",
        "Tansy is on approval from its seller, who knows of the test. Burdock is lent.",
    )
    levels = (100.0, 75.0, 50.0, 25.0, 10.0, 5.0, 1.0)
    sweep = Sweep(_ids(bench, "Tansy"), (5600.0, 3200.0), levels, (2.0,), (("reflector",),))
    desk = bench.run(session, sweep, SPECTROMETER)
    bench.read_room(desk)
    for _ in range(6):
        bench.read(desk)
    still_at_half = replace(desk.next_terms, level_pct=50.0)
    bench.read(desk, lamp_at=still_at_half)  # the lamp was not changed: caught, and read again
    desk.note("lamp had stayed at 50 %")
    bench.read_all(desk)
    tansy = _ids(bench, "Tansy")
    desk.observe(
        "shadow edge",
        "colour fringes",
        "red inside, blue outside, at the reflector's rim",
        tansy,
        desk.counted[-1].terms,
    )
    desk.observe("fan", "heard close by", "only above 75 %", tansy, desk.counted[0].terms)

    yarrow = Sweep(
        _ids(bench, "Yarrow"), (), (100.0, 75.0, 50.0, 25.0), (2.5,), (("full blue gel",),), return_to_first=False
    )
    desk = _more(bench, session, yarrow)
    bench.read_all(desk)
    stretch = [m.reading.id for m in desk.counted if m.source_id == bench.lamps["Yarrow"].id]
    bench.clock.pass_seconds(60.0)
    desk.correct_terms(stretch, "distance_m", 2.0, "the tape said 2 m all along")

    burdock = Sweep(_ids(bench, "Burdock"), (5600.0, 3200.0), levels, (3.0,), (("reflector",),))
    desk = _more(bench, session, burdock)
    for _ in range(4):
        bench.read(desk)
    knocked = replace(desk.next_terms, level_pct=9.0)
    bench.read(desk, lamp_at=knocked)  # a knocked dimmer: does not fit, read again
    bench.read_all(desk)


def _more(bench: _Bench, session: Session, sweep: Sweep) -> SessionDesk:
    """Further steps at the end of a session's run sheet."""
    desk = SessionDesk(bench.logbook, session, bench.clock)
    last = max((s.step.position for s in desk.state.steps), default=0.0)
    steps = [replace(step, position=step.position + last) for step in run_sheet(sweep, session.id, SPECTROMETER)]
    bench.logbook.save(*steps)
    return SessionDesk(bench.logbook, session, bench.clock)


# Said aloud at each mark, twice; "1180" at 15 ft has one digit wrong, was doubted at once and read again.
_SAID = (
    "640",
    "640",
    "1010",
    "1015",
    "1180",
    "1780",
    "1775",
    "3950",
    "3940",
    "158",
    "158",
    "249",
    "248",
    "442",
    "440",
    "990",
    "985",
)


def _walk_in_the_dark(bench: _Bench) -> None:
    """Two people, a light meter with a dome, feet: one walks, the other calls the figures."""
    session = bench.session(
        "Walk with Bracken",
        datetime(2026, 11, 18, 18, 40, tzinfo=UTC),
        "How far does the discharge lamp carry across the glasshouse, spot and flood?",
        "Spot carries to 25 ft; flood is enough to 10 ft.",
        "Bracken is lent by the open-air theatre.",
    )
    feet = [d * 0.3048 for d in (25.0, 20.0, 15.0, 10.0)]
    lamp = _ids(bench, "Bracken")
    spot = run_sheet(
        Sweep(lamp, (), (100.0,), tuple(feet), zooms=("spot",), return_to_first=False), session.id, LIGHT_METER
    )
    flood = run_sheet(
        Sweep(lamp, (), (100.0,), tuple(feet), zooms=("flood",), return_to_first=False), session.id, LIGHT_METER
    )
    bench.logbook.save(*spot, *(replace(step, position=step.position + len(spot)) for step in flood))
    desk = SessionDesk(bench.logbook, session, bench.clock)
    for text in _SAID:
        bench.pass_time(desk, 31.0)
        proposal = desk.propose(text)
        if proposal.look.in_doubt:
            desk.withdraw(proposal)
        else:
            desk.confirm(proposal)


def _camera_evening(bench: _Bench) -> None:
    """A chart under a flash and under three lamps, a panel that bands, a fade in steps."""
    session = bench.session(
        "Chart evening",
        datetime(2026, 11, 18, 20, 40, tzinfo=UTC),
        "What does the film camera make of the lamps beside the flash?",
        "Sorrel not below full at short shutters; fade with Tansy.",
        "All lamps are the garden's own, but for Tansy, which is on approval.",
    )
    desk = SessionDesk(bench.logbook, session, bench.clock)
    camera_evening(desk, {name: lamp.id for name, lamp in bench.lamps.items()}, bench.clock.pass_seconds)


def _glasshouse_window(bench: _Bench) -> None:
    """On location: lamps brought to the white of a north window, kept as a look for the spring."""
    session = bench.session(
        "Glasshouse, north window",
        datetime(2026, 11, 19, 9, 10, tzinfo=UTC),
        "Which lamps can stand beside the north window for the orchid film?",
        "Tansy and Burdock, both at 6300 K; Sorrel only behind quarter plus green.",
        "Burdock is lent by the herbarium.",
    )
    window = Source(new_id(), "North window", kind="window")
    bench.logbook.save(window)
    desk = SessionDesk(bench.logbook, session, bench.clock)
    desk.free_meter, desk.free_terms = SPECTROMETER.id, Terms(mode="fixed", placement="equal")
    said = (
        (window.id, "412 lx; 6480 K; 0.0031 duv"),
        (bench.lamps["Sorrel"].id, "390 lx; 5850 K; -0.0042 duv"),
        (bench.lamps["Burdock"].id, "428 lx; 6210 K; 0.0022 duv"),
        (bench.lamps["Comfrey"].id, "371 lx; 5480 K; 0.0088 duv"),
        (bench.lamps["Tansy"].id, "405 lx; 6390 K; 0.0024 duv"),
    )
    for source_id, text in said:
        bench.clock.pass_seconds(45.0)
        desk.free_source = source_id
        proposal = desk.propose(text)
        desk.confirm(proposal, keep_in_doubt=proposal.look.in_doubt)
        if source_id == window.id:
            desk.set_target(Target(6480.0, 0.0031, "north window"))
    desk.keep_look("north window")


def _second_evening(bench: _Bench) -> None:
    """Begun and left in the middle of a run: the window resumes at the very step."""
    session = bench.session(
        "Tansy, second evening",
        datetime(2026, 11, 19, 18, 20, tzinfo=UTC),
        "Do Tuesday's figures hold with the same meter on another evening?",
        "",
        "Tansy is on approval from its seller, who knows of the test.",
    )
    levels = (100.0, 75.0, 50.0, 25.0, 10.0, 5.0, 1.0)
    desk = bench.run(
        session, Sweep(_ids(bench, "Tansy"), (5600.0, 3200.0), levels, (2.0,), (("reflector",),)), SPECTROMETER
    )
    for _ in range(7):
        bench.read(desk)


_EVENINGS: tuple[tuple[str, Callable[[_Bench], None]], ...] = (
    ("an old spreadsheet", _old_spreadsheet),
    ("a look at the store", _store_check),
    ("the specimen table", _specimen_table),
    ("a walk in the dark", _walk_in_the_dark),
    ("an evening with a camera", _camera_evening),
    ("the glasshouse window", _glasshouse_window),
    ("a second evening", _second_evening),
)
"""What happened in the garden, in order."""

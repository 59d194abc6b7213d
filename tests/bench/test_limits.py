"""What cannot be never comes in, and what an earlier program kept of it is used by nothing."""

import json
import math
import sqlite3
from datetime import UTC, datetime

import pytest
from click.testing import CliRunner
from hypothesis import given
from hypothesis import strategies as st

from even_beam.answers.bench.run_form import RunForm, RunFormError, sweep_of
from even_beam.answers.bench.step_terms import step_terms
from even_beam.bench.field_texts import TermsError
from even_beam.bench.fields import terms_of_texts
from even_beam.bench.limits import TERM_LIMITS, ImpossibleError, checked, impossible_figure, impossible_terms
from even_beam.bench.planning.protocols import ProtocolError, protocols_of
from even_beam.bench.records import Event, EventKind, Origin, Reading, Session, Source, Terms, Value, new_id
from even_beam.bench.run import Standing
from even_beam.cli import main
from even_beam.formats.errors import FormatError
from even_beam.instruments.protocols import MeterReading
from even_beam.logbook import LogbookError
from even_beam.shell.settings import SettingsError, load
from even_beam.words.entry import EntryError
from even_beam.words.quantities import QUANTITIES

NONSENSE = ("1e999", "nan", "-50 lx", "9" * 400)


@given(st.sampled_from(list(QUANTITIES.values())), st.floats())
def test_a_figure_is_possible_just_when_it_lies_within_the_limits(quantity, figure):
    inside = math.isfinite(figure) and quantity.low <= figure <= quantity.high
    assert (impossible_figure(quantity.name, figure) is None) == inside
    assert (impossible_figure(quantity.name, None, quantity.low, figure) is None) == inside


@given(st.sampled_from(list(TERM_LIMITS)), st.floats())
def test_terms_are_possible_just_when_they_lie_within_the_limits(name, figure):
    limit = TERM_LIMITS[name]
    terms = Terms(**{name: figure})
    if limit.low <= figure <= limit.high:
        assert checked(terms) is terms
    else:
        with pytest.raises(ImpossibleError, match="cannot be"):
            checked(terms)


@pytest.mark.parametrize("text", NONSENSE)
def test_what_is_typed(text, desk):
    with pytest.raises(EntryError):
        desk.propose(text)


@pytest.mark.parametrize("text", ["424300 K", "600 lx; ra 956", "rf 120", "640 lx; 0.3 duv"])
def test_what_cannot_be_is_not_kept_even_on_purpose(text, desk):
    with pytest.raises(EntryError, match="cannot be"):
        desk.confirm(desk.propose(text), keep_in_doubt=True)
    assert desk.measured == ()
    assert desk.logbook.readings(desk.session.id) == []


def test_what_a_device_gives(desk):
    # type: ignore[arg-type]
    taken = desk.take(MeterReading({"illuminance": 640.0, "cct": math.inf, "duv": math.nan, "ra": 956.0}))
    assert [v.quantity for v in taken.measured.reading.values] == ["illuminance"]


def test_terms_by_every_form(desk):
    for field, text in (("level", "250"), ("cct", "1e999"), ("angle", "720"), ("distance", "99999 m")):
        with pytest.raises(TermsError):
            terms_of_texts({field: text}, Terms())
    for text in ("250", "99999 m", "1 K"):
        with pytest.raises(TermsError):
            step_terms(text, Terms())
    desk.confirm(desk.propose("640"))
    with pytest.raises(ImpossibleError):
        desk.correct_terms([desk.measured[0].reading.id], "level_pct", 250.0)
    with pytest.raises(RunFormError):
        sweep_of(RunForm(("lamp",), "5600", "100", "99999 m"))
    with pytest.raises(ProtocolError, match="cannot be"):
        protocols_of({"protocols": [{"name": "x", "answers": "y", "levels_pct": [250]}]})


@pytest.mark.parametrize("line", ["iso = 0", "shutter_s = nan", "shutter_s = 0.0", "battery_wh = inf"])
def test_settings(line, tmp_path):
    file = tmp_path / "settings.toml"
    file.write_text(line)
    with pytest.raises(SettingsError, match="lies between"):
        load(file)


TABLE = """fixture,cct_k,dimmer_pct,distance,position,quantity,value
Tansy,5600,100,2 m,centre,illuminance,640
Tansy,5600,100,2 m,centre,illuminance,1e999
Tansy,5600,100,2 m,centre,illuminance,nan
Tansy,5600,100,2 m,centre,illuminance,-50
Tansy,5600,100,2 m,centre,ra,996
Tansy,5600,100,2 m,centre,cct,424300
Tansy,5600,250,2 m,centre,illuminance,640
Tansy,5600,100,1e999 m,centre,illuminance,640
Tansy,5600,100,2 m,720 deg,illuminance,640
"""


def test_a_table_is_told_row_by_row_and_the_rest_comes_in(tmp_path, logbook, clock):
    from even_beam.answers.intake.importing import import_table

    file = tmp_path / "old.csv"
    file.write_text(TABLE)
    report = import_table(file, logbook, clock)
    assert report.readings == 1
    assert len(report.refused) == 8
    assert all(line.startswith(f"line {number}:") for number, line in enumerate(report.refused, start=3))


def test_a_table_of_nothing_but_nonsense_is_refused(tmp_path, logbook, clock):
    from even_beam.answers.intake.importing import import_table

    file = tmp_path / "old.csv"
    file.write_text("\n".join(line for number, line in enumerate(TABLE.splitlines()) if number != 1))
    with pytest.raises(FormatError):
        import_table(file, logbook, clock)
    assert logbook.sessions() == []


def kept(logbook, clock, terms: Terms, value: Value) -> Reading:
    session = Session(new_id(), "Old", clock())
    reading = Reading(new_id(), session.id, clock(), 1, terms, ("tansy",), values=(value,))
    logbook.save(session)
    logbook.commit_reading(reading, [Event(new_id(), session.id, 1, clock(), EventKind.TAKEN, reading.id)])
    return reading


def test_the_logbook_is_the_last_gate(logbook, clock):
    logbook.save(Source("tansy", "Tansy"))
    with pytest.raises(LogbookError, match="cannot be"):
        kept(logbook, clock, Terms(level_pct=250.0), Value("illuminance", 640.0, Origin.TYPED))
    with pytest.raises(LogbookError, match="cannot be"):
        kept(logbook, clock, Terms(), Value("ra", 956.0, Origin.DEVICE))


def test_what_is_in_an_old_logbook_is_set_aside_said_and_breaks_no_output(logbook, clock, tmp_path):
    logbook.save(Source("tansy", "Tansy"), Source("sorrel", "Sorrel"))
    terms = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
    good = kept(logbook, clock, terms, Value("illuminance", 640.0, Origin.TYPED))
    figure = kept(logbook, clock, terms, Value("illuminance", 700.0, Origin.TYPED, text="1e999"))
    term = kept(logbook, clock, terms, Value("illuminance", 900.0, Origin.TYPED))
    path = tmp_path / "old.evenbeam"
    logbook.save_copy(path)
    connection = sqlite3.connect(path)
    connection.execute("UPDATE value SET value = 9e999 WHERE reading_id = ?", (figure.id,))
    connection.execute(
        "INSERT INTO value (reading_id, quantity, origin, value, text) VALUES (?, 'ra', 'device', 956, '956')",
        (good.id,),
    )
    connection.execute("UPDATE reading SET level_pct = 250 WHERE id = ?", (term.id,))
    connection.commit()
    connection.close()
    run = CliRunner()
    checked_ = run.invoke(main, ["check", str(path)])
    assert checked_.exit_code == 1
    for words in (
        "1 figure of illuminance that cannot be, such as “1e999”: set aside",
        "1 figure of Ra",
        "1 reading at a level",
    ):
        assert words in checked_.stderr, checked_.stderr
    found = run.invoke(main, ["findings", str(path), "--json"])
    levels = [f["value"] for f in json.loads(found.stdout)["fixtures"][0]["findings"] if f["name"] == "illuminance"]
    assert levels == [pytest.approx(640.0)]
    assert run.invoke(main, ["compare", str(path), "--fixtures", "Tansy", "--json"]).exit_code == 0
    assert run.invoke(main, ["report", str(path), "--out", str(tmp_path / "page.html")]).exit_code == 0
    assert run.invoke(main, ["export", str(path), "--to", "csv", str(tmp_path / "all.csv")]).exit_code == 0
    table = (tmp_path / "all.csv").read_text()
    assert "impossible terms" in table
    assert "1e999" in table  # its text is kept


def test_terms_that_cannot_be_count_again_once_they_are_corrected():
    from even_beam.bench.run import fold

    now = datetime(2026, 1, 1, tzinfo=UTC)
    reading = Reading("r", "s", now, 1, Terms(level_pct=250.0))
    taken = Event("t", "s", 1, now, EventKind.TAKEN, "r")
    right = Event("c", "s", 2, now, EventKind.TERMS_CORRECTED, "r", field="level_pct", new="25.0")
    assert impossible_terms(reading.terms)
    assert fold([], [reading], [taken]).readings[0].standing is Standing.IMPOSSIBLE
    assert fold([], [reading], [taken, right]).readings[0].standing is Standing.COUNTED

"""Copies by day: made when due, thinned, and one taken in without losing what came after."""

from datetime import date, timedelta
from pathlib import Path

import pytest
from click.testing import CliRunner
from hypothesis import given
from hypothesis import strategies as st

from even_beam.cli import main
from even_beam.collection.backups import Backup, back_up, backups_of, folder_of, is_due, superfluous
from even_beam.logbook.store import Logbook
from tests.answers.sharing.benches import Bench

TODAY = date(2026, 12, 2)


@pytest.fixture
def bench(tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    own = Bench(tmp_path / "book.evenbeam")
    own.read(own.session("Evening"), own.lamp("Tansy"), 100.0, 101.0)
    return own


def copied(bench: Bench, day: date) -> bool:
    book = Logbook.open(bench.path)
    try:
        due = is_due(book, day)
        if due:
            back_up(book, day, 1e9)
        return due
    finally:
        book.close()


def test_one_a_day_that_it_was_written_in(bench):
    assert copied(bench, TODAY)
    assert not copied(bench, TODAY), "today has one"
    assert not copied(bench, TODAY + timedelta(days=1)), "nothing was written since"
    bench.read(bench.session("Another"), next(iter(bench.rows("source")))[0], 102.0)
    assert copied(bench, TODAY + timedelta(days=1))
    assert [one.day for one in backups_of(bench.path)] == [TODAY + timedelta(days=1), TODAY]


def test_an_empty_logbook_has_none(tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    assert not copied(Bench(tmp_path / "new.evenbeam"), TODAY)


def test_two_logbooks_of_one_name_have_copies_of_their_own(bench, tmp_path):
    (tmp_path / "other").mkdir()
    assert folder_of(bench.path) != folder_of(tmp_path / "other" / "book.evenbeam")


def test_one_is_put_back_and_what_came_after_stays(bench):
    copied(bench, TODAY)
    former = bench.everything()
    bench.path.unlink()
    later = Bench(bench.path)
    later.read(later.session("Afterwards"), later.lamp("Fennel"), 7.0)
    done = CliRunner().invoke(main, ["backups", str(bench.path), "--put-back", TODAY.isoformat()])
    assert done.exit_code == 0, done.output
    assert "2 readings came" in done.output
    after = later.everything()
    assert all(after[table] >= rows for table, rows in former.items())
    assert len(after["reading"]) == 3


def test_where_they_are_is_said(bench):
    copied(bench, TODAY)
    done = CliRunner().invoke(main, ["backups", str(bench.path)])
    assert str(folder_of(bench.path)) in done.output and TODAY.isoformat() in done.output
    assert CliRunner().invoke(main, ["backups", str(bench.path), "--put-back", "2020-01-01"]).exit_code == 2


def thinned(days: list[int], size: int = 1, most: float = 1e9) -> list[int]:
    """The ages that are kept of copies of such ages, thinned each day as it came."""
    kept: list[Backup] = []
    oldest = max(days)
    for age in sorted(days, reverse=True):
        today = TODAY + timedelta(days=oldest - age)
        kept = [Backup(Path(f"{today}"), today, size), *kept]
        gone = set(superfluous(kept, today, most))
        kept = [one for one in kept if one not in gone]
    return [(TODAY + timedelta(days=oldest) - one.day).days for one in kept]


def test_days_then_weeks_then_months():
    ages = thinned(list(range(400)))
    assert ages[:7] == [0, 1, 2, 3, 4, 5, 6], "each of the last days"
    weeks = [age for age in ages if 7 <= age < 56]
    assert 6 <= len(weeks) <= 8
    months = [age for age in ages if age >= 56]
    assert 10 <= len(months) <= 13


@given(st.sets(st.integers(0, 900), min_size=1), st.integers(1, 50))
def test_the_newest_is_kept_and_all_fit(days, most):
    ages = thinned(sorted(days), 10, 10.0 * most)
    assert ages[0] == min(days)
    assert len(ages) <= most

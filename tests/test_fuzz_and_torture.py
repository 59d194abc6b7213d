"""Short forms of `make fuzz` and `make torture`."""

import pytest
from click.testing import CliRunner

from benchmarks.doors import cases, prepared, tried
from benchmarks.fuzz import LARGEST_MB, fuzz
from benchmarks.hubs import KINDS, evenings
from benchmarks.moments import DOORS, moments
from benchmarks.torture import torture
from even_beam.cli import main
from tests.hubs.server import programs


def test_hostile_input_meets_errors_of_our_own_alone():
    for seed in (3, 4):
        for door, outcome in fuzz(4.0, seed).items():
            faults = [fault for fault in outcome.faults if not fault.startswith("took")]  # nothing is timed here
            assert faults == [], door
            assert outcome.largest_mb < LARGEST_MB
            assert sum(outcome.counts.values()) > 0


@pytest.mark.long
def test_a_killed_run_loses_nothing_that_it_confirmed():
    kills, confirmed, faults = torture(2, 5)
    assert kills == 2
    assert confirmed > 0
    assert faults == []


def test_killed_at_any_moment_nothing_is_lost_and_nothing_mixed():
    counts, faults = moments(12, 11)
    assert sum(counts.values()) == 12
    assert set(counts) <= set(DOORS)
    assert faults == []


@pytest.fixture(scope="module")
def place(tmp_path_factory):
    folder = tmp_path_factory.mktemp("doors")
    prepared(folder)
    return folder


SLOW = {"import rows.csv", "inspect big.cgats", "import nick5M.csv"}


def test_every_command_has_a_calm_word_for_what_it_is_handed(place, monkeypatch):
    """In this process: how long they take and how much they hold is seen by `make torture`."""
    monkeypatch.chdir(place)

    def run(arguments, surroundings):
        for name, value in surroundings.items():
            monkeypatch.setenv(name, value)
        done = CliRunner().invoke(main, arguments)
        return done.exit_code, done.output.encode("utf-8", "replace"), 0.0

    asked = [case for case in cases() if case.name not in SLOW]
    faults = [wrong for case in asked if (wrong := tried(case, place, run)) and " s:" not in wrong]
    assert faults == []
    assert len(asked) > 70


@pytest.mark.long
@pytest.mark.parametrize("kind", KINDS)
def test_four_benches_and_a_hub_tell_the_same_in_the_end(kind):
    if kind == "server" and programs() is None:
        pytest.skip("PostgreSQL is not installed; make test installs it when root")
    killed, faults = evenings(kind, 16, 3)
    assert killed > 0
    assert faults == []

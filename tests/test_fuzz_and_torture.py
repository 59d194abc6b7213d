"""Short forms of `make fuzz` and `make torture`."""

from benchmarks.fuzz import LARGEST_MB, fuzz
from benchmarks.torture import torture


def test_hostile_input_meets_errors_of_our_own_alone():
    for seed in (3, 4):
        for door, outcome in fuzz(4.0, seed).items():
            faults = [fault for fault in outcome.faults if not fault.startswith("took")]  # nothing is timed here
            assert faults == [], door
            assert outcome.largest_mb < LARGEST_MB
            assert sum(outcome.counts.values()) > 0


def test_a_killed_run_loses_nothing_that_it_confirmed():
    kills, confirmed, faults = torture(4, 5)
    assert kills == 4
    assert confirmed > 0
    assert faults == []

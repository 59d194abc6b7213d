"""Lines of the sheet tell the steps of a run apart, whatever it crosses."""

from types import SimpleNamespace

from hypothesis import given
from hypothesis import strategies as st

from even_beam.answers.bench.rows import sheet
from even_beam.bench.planning.sweep import Sweep, run_sheet
from even_beam.bench.records import Meter, Terms
from even_beam.bench.run import fold
from even_beam.shell.settings import Settings
from tests.known.findings.story import read

METER = Meter("m", "Light meter")


def desk_with(steps=(), measured=()):
    state = fold(steps, (), ())
    return SimpleNamespace(state=state, is_run=bool(steps), target=None, measured=measured, name_of=" + ".join)


def lines(sweep: Sweep) -> list[tuple[str, str, str]]:
    """Heading, first and second term of every line."""
    found, heading = [], ""
    for row in sheet(desk_with(run_sheet(sweep, "s", METER)), Settings()):
        if row.heading:
            heading = row.first
        else:
            found.append((heading, row.first, row.second))
    return found


sweeps = st.builds(
    Sweep,
    source_ids=st.sampled_from((("lamp",), ("one", "two"))),
    whites_k=st.sampled_from(((5600.0,), (3200.0, 5600.0))),
    levels_pct=st.sampled_from(((100.0,), (100.0, 50.0))),
    distances_m=st.sampled_from(((2.0,), (1.0, 2.0, 3.0))),
    configurations=st.sampled_from((((),), ((), ("dish",)))),
    zooms=st.sampled_from((("",), ("flood",), ("flood", "spot"))),
    angles_deg=st.sampled_from(((0.0,), (-15.0, 0.0, 15.0))),
    repeats=st.just(1),
    return_to_first=st.just(False),
)


@given(sweeps)
def test_no_two_steps_of_a_run_look_alike(sweep):
    found = lines(sweep)
    assert len(found) == len(set(found))


def test_a_sweep_tells_white_and_level_and_a_walk_its_marks():
    plain = Sweep(("lamp",), (5600.0,), (100.0, 50.0), (2.0,), repeats=1, return_to_first=False)
    assert lines(plain) == [
        ("lamp · bare · on axis", "5600 K", "100 %"),
        ("lamp · bare · on axis", "5600 K", "50 %"),
    ]
    walk = Sweep(("lamp",), (), (100.0,), (1.0, 2.0), zooms=("spot",), repeats=1, return_to_first=False)
    assert [line[1:] for line in lines(walk)] == [("1 m", "spot"), ("2 m", "spot")]


def test_what_varies_beside_whites_and_levels_stands_in_the_headings_and_nothing_else():
    sweep = Sweep(
        ("lamp",), (3200.0, 5600.0), (100.0, 50.0), (2.0,), zooms=("flood", "spot"), repeats=1, return_to_first=False
    )
    assert {heading for heading, _, _ in lines(sweep)} == {
        "flood",
        "spot",
    }


def test_readings_are_told_apart_by_what_was_written():
    bare, fitted = Terms(cct_k=5600.0), Terms(cct_k=5600.0, configuration=("softbox", "half CTO"))
    desk = desk_with(measured=(read(1, bare, illuminance=5000.0), read(2, fitted, illuminance=1500.0)))
    assert [row.second for row in sheet(desk, Settings())] == ["bare", "softbox + half CTO"]

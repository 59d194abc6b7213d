"""Lists of distances as they are said: each figure has the unit that follows it."""

import itertools

import pytest

from even_beam.answers.bench.run_form import RunForm, RunFormError, distances, sweep_of
from even_beam.bench.planning.sweep import run_sheet
from even_beam.bench.records import Meter


@pytest.mark.parametrize(
    ("text", "metres"),
    [
        ("1 m 5 ft 10 ft", (1.0, 1.524, 3.048)),
        ("10 15 20 25 ft", (3.048, 4.572, 6.096, 7.62)),
        ("2 m", (2.0,)),
        ("1, 2, 3", (1.0, 2.0, 3.0)),
        ("1; 2.5 m; 50 cm", (1.0, 2.5, 0.5)),
        ("5 ft 6 in, 2 m", (1.6764, 2.0)),
        ("5' 10'", (1.524, 3.048)),
        ("equal", ()),
        ("", ()),
    ],
)
def test_distances(text, metres):
    assert distances(text) == pytest.approx(metres)


@pytest.mark.parametrize("text", ["far", "5 miles", "0 m", "1 m and 2", "1e9 m", "-3 m"])
def test_what_is_none(text):
    with pytest.raises(RunFormError):
        distances(text)


def test_a_run_crosses_zoom_configuration_angle_white_level_and_distance():
    """Every crossing once, what costs most changed least: the lamp's fittings, the distance, the aim, the zoom."""
    form = RunForm(
        ("lamp",),
        "5600 3200",
        "100",
        "10 ft 20 ft",
        "bare; dish + full CTO",
        "flood, spot",
        1,
        "centre, left 15, right 15",
    )
    sweep = sweep_of(form)
    assert sweep.configurations == ((), ("dish", "full CTO"))
    assert sweep.zooms == ("flood", "spot")
    assert sweep.angles_deg == (0.0, -15.0, 15.0)
    steps = run_sheet(sweep, "s", Meter("m", "Hand meter"))
    terms = [step.terms for step in steps[:-1]]  # the last repeats the first
    assert len(terms) == len(set(terms)) == 2 * 2 * 3 * 2 * 2
    assert steps[-1].terms == terms[0]

    def changes(name: str) -> int:
        return sum(getattr(a, name) != getattr(b, name) for a, b in itertools.pairwise(terms))

    assert changes("configuration") < changes("distance_m") < changes("angle_deg") < changes("zoom") < changes("cct_k")


@pytest.mark.parametrize(
    ("text", "angles"),
    [("-15 0 15", (-15.0, 0.0, 15.0)), ("centre; 15° right", (0.0, 15.0)), ("", (0.0,)), ("30 left", (-30.0,))],
)
def test_angles(text, angles):
    assert sweep_of(RunForm(("lamp",), "5600", "100", "2 m", angles=text)).angles_deg == angles


def test_an_angle_that_is_none():
    for text in ("sideways", "400"):
        with pytest.raises(RunFormError):
            sweep_of(RunForm(("lamp",), "5600", "100", "2 m", angles=text))

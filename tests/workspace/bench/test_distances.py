"""Lists of distances as they are said: each figure has the unit that follows it."""

import pytest

from even_beam.workspace.bench.run_form import RunFormError, distances


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

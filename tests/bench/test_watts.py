"""What watts promise (check values 42 and 43 of the trade; common practice, no source)."""

import pytest

from even_beam.bench.watts import Drawn, watt_hints


def by_name(hints):
    return {hint.drawn.name: hint for hint in hints}


@pytest.mark.parametrize(
    ("watts", "less", "expected", "measured"),
    [(300.0, 200.0, 0.58, 0.5), (200.0, 160.0, 0.32, 0.3), (400.0, 300.0, 0.42, 0.4)],
)
def test_same_class_of_reflector(watts, less, expected, measured):
    found = by_name(watt_hints([Drawn("small", less, 1000.0), Drawn("large", watts, 1000.0 * 2.0**measured)], "small"))
    assert found["large"].expected_stops == pytest.approx(expected, abs=0.005)
    assert found["large"].off_stops == pytest.approx(measured - expected, abs=0.005)
    assert not found["large"].odd and found["small"].expected_stops == 0.0


def test_the_odd_one_out_is_pointed_at():
    """A diffused reflector gives two stops less than a polished one of the same watts (f/8 against f/16)."""
    lamps = [Drawn(f"{w:.0f}", w, 30.0 * w) for w in (400.0, 300.0, 200.0)] + [
        Drawn("diffused", 160.0, 30.0 * 160.0 / 4.0)
    ]
    found = by_name(watt_hints(lamps, "400"))
    assert [name for name, hint in found.items() if hint.odd] == ["diffused"]
    assert found["diffused"].off_stops == pytest.approx(-2.0)
    assert "2.0 stops less than its watts promise" in found["diffused"].sentence
    polished = by_name(watt_hints([*lamps[:3], Drawn("spot", 200.0, 30.0 * 200.0 * 3.0)], "400"))
    assert "narrow beam" in polished["spot"].sentence


def test_without_the_reference_there_is_nothing_to_say():
    assert watt_hints([Drawn("a", 100.0, 10.0)], "b") == ()
    assert not any(hint.odd for hint in watt_hints([Drawn("a", 100.0, 10.0), Drawn("b", 100.0, 90.0)], "a"))

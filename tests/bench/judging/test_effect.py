from dataclasses import replace

import pytest

from even_beam.bench.judging.effect import effect_of
from even_beam.bench.records import Terms
from tests.bench.judging.test_second_look import reading

HERE = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0, zoom="flood")
BEFORE = reading(HERE, 1, illuminance=1000.0, cct=5600.0)


@pytest.mark.parametrize(
    ("changed", "figures", "words"),
    [
        ({"zoom": "spot"}, {"illuminance": 1860.0}, "Spot gives 1.86× flood."),
        ({"configuration": ("dish",)}, {"illuminance": 3800.0, "cct": 5560.0}, "Dish gives 3.80× bare, +1.3 mired."),
        ({"configuration": ("gel",)}, {"illuminance": 450.0, "cct": 5600.0}, "Gel gives 0.45× bare."),
        ({"level_pct": 50.0}, {"illuminance": 490.0}, "50 % gives 0.49× 100 %."),
        ({"distance_m": 4.0}, {"illuminance": 250.0}, ""),
        ({"zoom": "spot", "level_pct": 50.0}, {"illuminance": 930.0}, ""),
        ({}, {"illuminance": 1001.0}, ""),
    ],
)
def test_one_change_is_told_beside_the_reading_before_it(changed, figures, words):
    assert effect_of(reading(replace(HERE, **changed), 2, **figures), [BEFORE]) == words


def test_another_lamp_and_a_reading_without_a_level_tell_nothing():
    spot = replace(HERE, zoom="spot")
    assert effect_of(reading(spot, 2, source="other", illuminance=1860.0), [BEFORE]) == ""
    assert effect_of(reading(spot, 2, cct=5600.0), [BEFORE]) == ""
    assert effect_of(reading(spot, 3, illuminance=1860.0), [BEFORE, reading(HERE, 2, cct=5600.0)]).startswith("Spot")

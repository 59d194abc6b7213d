"""Light for money, on made-up price lists whose answers are plain."""

import pytest

from even_beam.bench.records import Cost
from even_beam.known.value import Priced, diminishing, full_cost, usual_currency


def lamp(name, price, candela, ra=95.0):
    return Priced(name, 0, price, "EUR", "lamp", candela, ra, ("r",))


def test_everything_it_needs_is_counted_in_one_currency():
    costs = [
        Cost("1", "m", "lamp", 640.0, "EUR"),
        Cost("2", "m", "ballast", 160.0, "EUR"),
        Cost("3", "m", "case", 50.0, "GBP"),
    ]
    assert full_cost(costs, "EUR") == (800.0, "lamp + ballast")
    assert full_cost(costs, "USD") is None
    assert full_cost([Cost("1", "m", "lamp", 0.0, "EUR")], "EUR") is None  # lent: no price to divide by


def test_where_more_money_buys_little():
    cheap, good, dear = lamp("cheap", 100.0, 1000.0), lamp("good", 200.0, 2000.0), lamp("dear", 1000.0, 2200.0)
    assert diminishing([dear, cheap, good]) is good  # 200 cd for 800 more, against 10 cd a unit of the cheapest
    assert diminishing([cheap, good]) is None
    assert diminishing([]) is None


def test_a_dearer_lamp_that_gives_less_is_beyond_the_point():
    best = lamp("best", 300.0, 5000.0)
    assert diminishing([best, lamp("dearer and darker", 900.0, 4000.0)]) is best
    assert diminishing([lamp("not measured", 100.0, None), best]) is None


def test_light_for_each_unit():
    assert lamp("a", 400.0, 10_000.0).candela_per_price == pytest.approx(25.0)
    assert lamp("a", 400.0, None).candela_per_price is None


def test_ranges_count_at_their_dearer_end_kits_by_the_lamp_and_what_is_optional_not_at_all():
    costs = [
        Cost("1", "m", "lamp", 1380.0, "USD", high=1500.0, units=3),
        Cost("2", "m", "frame", 45.0, "USD", optional=True),
        Cost("3", "m", "supply", 60.0, "USD"),
    ]
    assert full_cost(costs, "USD") == (560.0, "lamp, one of 3, at most + supply")


def test_lamps_are_compared_in_the_currency_of_most():
    each = [[Cost("1", "m", "lamp", 1.0, currency)] for currency in ("USD", "EUR", "USD")]
    assert usual_currency(each) == "USD"
    assert usual_currency([]) == ""

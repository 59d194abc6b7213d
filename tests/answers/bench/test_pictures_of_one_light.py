"""The Bench's pictures show readings that differ in what the axis is alone: no other optic, gel, angle or meter on the
curve of a dimmer or a walk."""

from dataclasses import replace
from types import SimpleNamespace

from hypothesis import HealthCheck, given, settings

from even_beam.answers.bench.charts import curve_so_far, main_chart
from even_beam.bench import fields
from even_beam.bench.judging.second_look import SecondLook
from even_beam.bench.records import Terms
from even_beam.figures.chart import Points, Text
from even_beam.figures.progress import dimming_chart, walk_chart
from even_beam.shell.settings import Settings
from tests.bench.test_one_sameness import readings
from tests.known.findings.story import read

FULL = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)


def desk_with(own):
    return SimpleNamespace(
        counted=own, state=SimpleNamespace(steps=()), target=None, logbook=SimpleNamespace(traces=lambda _: ())
    )


def drawn(chart) -> set[str]:
    return {key for mark in chart.marks if isinstance(mark, Points) for key in mark.keys}


@settings(deadline=None, max_examples=150, suppress_health_check=list(HealthCheck))
@given(readings(2, 12))
def test_a_picture_is_of_one_light_along_its_axis(own):
    desk, by_id = desk_with(own), {m.reading.id: m for m in own}
    for measured in own:
        chart = main_chart(desk, measured, None, Settings())
        axis = {"distance", "placement"} if "walk" in chart.title else {"level"}
        for picture, axes in ((chart, axis), (curve_so_far(desk, measured), {"level"})):
            for key in drawn(picture):
                both = zip(fields.NAMES, by_id[key].key, measured.key, strict=True)
                off = {name for name, ours, theirs in both if ours != theirs} - axes - {"plane", "session"}
                assert not off, (picture.title, off)


def test_a_modifier_is_not_on_the_curve_of_the_bare_lamp():
    bare, dimmed = read(1, FULL, illuminance=5000.0), read(2, replace(FULL, level_pct=50.0), illuminance=2500.0)
    fitted = read(3, replace(FULL, configuration=("softbox",)), illuminance=1500.0)
    desk = desk_with((bare, dimmed, fitted))
    assert drawn(main_chart(desk, bare, None, Settings())) == {"r1", "r2"}
    assert drawn(main_chart(desk, fitted, None, Settings())) == {"r3"}


def test_the_level_is_marked_where_it_is_what_does_not_fit():
    bare, dimmed = read(1, FULL, illuminance=5000.0), read(2, replace(FULL, level_pct=50.0), illuminance=2500.0)
    desk = desk_with((bare, dimmed))

    def labels(quantity: str) -> list[Text]:
        chart = main_chart(desk, dimmed, SecondLook(True, ("It does not fit.",), quantity=quantity), Settings())
        return [mark for mark in chart.marks if isinstance(mark, Text)]

    assert labels("illuminance") and not labels("cct")


def test_a_label_stays_inside_the_picture():
    low, full = read(1, replace(FULL, level_pct=1.0), illuminance=50.0), read(2, FULL, illuminance=5000.0)
    sides = [
        next(mark.anchor for mark in dimming_chart((low, full), one, in_doubt=True).marks if isinstance(mark, Text))
        for one in (low, full)
    ]
    assert sides == ["left", "right"]


def test_repeats_at_a_mark_are_labelled_where_both_can_be_read():
    def words(again: float) -> list[str]:
        walk = (read(1, FULL, illuminance=800.0), read(2, replace(FULL, distance_m=4.0), illuminance=200.0))
        chart = walk_chart(walk, "m", read(3, FULL, illuminance=again))
        return sorted(mark.text for mark in chart.marks if isinstance(mark, Text))

    assert words(805.0) == ["200", "805"]
    assert words(400.0) == ["200", "400", "800"]

"""Meters, modifiers, gels and subjects: said, changed, taken out and undone; and what readings say of them."""

from datetime import UTC, date, datetime

import numpy as np
import pytest

from even_beam.answers.kit.all_shelves import shelves_of
from even_beam.answers.kit.shelf import ShelfName
from even_beam.bench.records import (
    GEL,
    Meter,
    Modifier,
    Origin,
    Reading,
    Session,
    Source,
    Spectrum,
    Subject,
    Terms,
    Value,
)
from even_beam.collection.evaluation import computed_of
from even_beam.desk.kit.desk import KitDesk
from even_beam.desk.kit.form_error import FormError
from even_beam.desk.kit.own_subjects import own_subjects
from even_beam.light import WAVELENGTH_NM, daylight, planckian

GIVEN = 0.1 + 0.6 / (1.0 + np.exp(-(WAVELENGTH_NM - 600.0) / 12.0))


@pytest.fixture
def shelves(logbook):
    return shelves_of(KitDesk(logbook), date(2026, 11, 26))


def named(shelf, name):
    return next(thing for thing in shelf.things() if thing.name == name)


def take(logbook, terms, spectrum=None, **figures):
    """A reading of one lamp, with its spectrum or typed."""
    if not logbook.sessions():
        logbook.save(Session("s", "Evening", datetime(2026, 3, 1, tzinfo=UTC)), Meter("m", "Spectro"))
        logbook.save(Source("l", "Tansy"))
    count = len(logbook.readings("s"))
    values = tuple(Value(name, value, Origin.TYPED) for name, value in figures.items())
    at = datetime(2026, 3, 1, 20, count, tzinfo=UTC)
    reading = Reading(f"r{count}", "s", at, count + 1, terms, ("l",), meter_id="m", values=values)
    logbook.commit_reading(reading, [], spectrum)
    if spectrum is not None:
        logbook.save_computed(computed_of({reading.id: spectrum}))


def shone(values):
    return Spectrum(WAVELENGTH_NM, values * 0.001, True)


# --- meters


def test_a_meter_is_said_changed_and_undone(shelves, logbook):
    shelf = shelves[ShelfName.METERS]
    text = "Phone; light meter; dome; C 340; level 4 %; repeats 1 %; from 5 lx; to 50k lx; ratios only; note of Ana"
    assert "good for ratios only: yes" in shelf.understood(text, None)
    key, said = shelf.say(text, None)
    (meter,) = logbook.all(Meter)
    assert "in the Kit" in said
    assert (meter.receptor, meter.constant, meter.absolute, meter.notes) == ("dome", 340.0, False, "of Ana")
    assert (meter.level_tolerance, meter.ratio_tolerance, meter.floor_lx) == pytest.approx((0.04, 0.01, 5.0))
    assert meter.ceiling_lx == 50_000.0
    shelf.say("absolute; CC shows the cast; zeroed on Tansy", key)
    (changed,) = logbook.all(Meter)
    assert changed.absolute and changed.cc_sign == "cast" and changed.zeroed_on == "Tansy" and changed.for_ratios_only
    words = str(shelf.page(key).parts)
    assert "shows the cast" in words and "within 4 %" in words
    assert "x and y" not in words, "a light meter reads no white"
    shelf._kit.undo()
    assert logbook.all(Meter) == [meter]
    shelf.remove(key)
    assert logbook.all(Meter) == []
    shelf._kit.undo()
    assert logbook.all(Meter) == [meter]


@pytest.mark.parametrize("text", ["dome; banana", "C lots", "level 90 %", "CC shows the moon"])
def test_what_is_nothing_of_a_meter_is_refused(shelves, logbook, text):
    shelf = shelves[ShelfName.METERS]
    key, _ = shelf.say("Phone", None)
    (before,) = logbook.all(Meter)
    with pytest.raises(FormError):
        shelf.say(text, key)
    assert logbook.all(Meter) == [before]


def test_a_meter_that_read_something_stays(shelves, logbook):
    take(logbook, Terms(), illuminance=400.0)
    with pytest.raises(FormError, match="stays: 1 "):
        shelves[ShelfName.METERS].remove("m")
    assert [meter.id for meter in logbook.all(Meter)] == ["m"]


# --- modifiers and gels


def test_what_lamps_were_read_with_stands_there_by_itself_and_is_written_down(shelves, logbook):
    take(logbook, Terms(configuration=("reflector", "half CTB")), illuminance=300.0)
    shelf = shelves[ShelfName.MODIFIERS]
    assert [thing.name for thing in shelf.things()] == ["half CTB", "reflector"]
    assert "not written down" in named(shelf, "reflector").line
    shelf.say("kind reflector; note dented", "reflector")
    assert logbook.all(Modifier)[0].notes == "dented" and "read on 1 lamp" in named(shelf, "reflector").line
    with pytest.raises(FormError, match="keeps that name"):
        shelf.say("call it dish", "reflector")
    shelf.remove("reflector")
    assert "not written down" in named(shelf, "reflector").line, "readings go on naming it"
    key, _ = shelf.say("1/4 plus green", None)
    assert next(one for one in logbook.all(Modifier) if one.nickname == key).kind == GEL


def test_a_page_tells_what_one_part_did_and_nothing_of_two(shelves, logbook):
    """Half the light and 50 mired by the dish alone; the gel was only read on the dish, so its own effect is told."""
    for configuration, lux, cct in ((), 1000.0, 5000.0), (("dish",), 2000.0, 4000.0), (("dish", "net"), 500.0, 4000.0):
        take(logbook, Terms(cct_k=5000.0, level_pct=100.0, distance_m=2.0, configuration=configuration),
             illuminance=lux, cct=cct)  # fmt: skip
    shelf = shelves[ShelfName.MODIFIERS]
    (dish,) = shelf.record("dish")(logbook.path).parts
    assert len(dish.rows) == 1 and dish.rows[0][0] == "Tansy"
    assert "2.00× the light of bare" in dish.rows[0][1] and "white +50.0 ±3.8 mired" in dish.rows[0][1]
    (net,) = shelf.record("net")(logbook.path).parts
    assert net.rows == () and "with it and without it" in net.empty, "matrix sets beside the barest alone: dish + net"


def test_a_gel_shows_what_it_was_read_to_let_through(shelves, logbook):
    through = np.clip(0.8 - 0.001 * (WAVELENGTH_NM - 450.0), 0.1, 1.0)
    terms = {"cct_k": 5600.0, "level_pct": 100.0, "distance_m": 2.0}
    take(logbook, Terms(**terms), shone(daylight(5600.0)))
    take(logbook, Terms(**terms, configuration=("quarter CTB",)), shone(daylight(5600.0) * through))
    shelf = shelves[ShelfName.MODIFIERS]
    assert "model from memory" in str(shelf.page("quarter CTB").parts)
    found = shelf.record("quarter CTB")(logbook.path)
    drawn = np.array(found.chart.marks[0].y)
    assert drawn == pytest.approx(100.0 * through, abs=0.2)
    assert "With quarter CTB" in found.parts[0].rows[0][1]


# --- subjects


def write(path, wavelength, shares):
    path.write_text("nm,petal\n" + "\n".join(f"{nm:g},{v:.5f}" for nm, v in zip(wavelength, shares, strict=True)))
    return path


@pytest.mark.parametrize("scale", [1.0, 100.0])
def test_a_reflectance_comes_out_of_a_file_in_shares_or_per_cent(shelves, logbook, tmp_path, scale):
    shelf = shelves[ShelfName.SUBJECTS]
    path = write(tmp_path / "petal.csv", WAVELENGTH_NM[::10], scale * GIVEN[::10])
    key, said = shelf.take(path)
    shelf.take(path)
    assert "is in the Kit" in said
    assert [one.nickname for one in logbook.all(Subject)] == ["petal", "petal 2"]
    assert own_subjects(logbook)["petal"] == pytest.approx(GIVEN, abs=2e-3)
    shelf.say("call it rose; note of the garden", key)
    assert named(shelf, "rose").line == "of the garden"
    with pytest.raises(FormError, match="already"):
        shelf.say("call it petal 2", key)
    shelf.remove(key)
    assert [one.nickname for one in logbook.all(Subject)] == ["petal 2"]
    for _ in range(4):
        shelf._kit.undo()
    assert logbook.all(Subject) == []


@pytest.mark.parametrize(
    ("wavelength", "shares", "word"),
    [
        (np.arange(450.0, 781.0, 10.0), np.full(34, 0.5), "reaches"),
        (np.arange(380.0, 781.0, 50.0), np.full(9, 0.5), "steps"),
        (np.arange(380.0, 781.0, 10.0), np.full(41, -0.5), "shares"),
        (np.arange(380.0, 781.0, 10.0), np.zeros(41), "shares"),
        (np.arange(380.0, 781.0, 10.0), np.full(41, 4000.0), "shares"),
    ],
)
def test_what_is_no_reflectance_is_refused_and_nothing_is_kept(shelves, logbook, tmp_path, wavelength, shares, word):
    with pytest.raises(FormError, match=word):
        shelves[ShelfName.SUBJECTS].take(write(tmp_path / "petal.csv", wavelength, shares))
    with pytest.raises(FormError):
        shelves[ShelfName.SUBJECTS].take(tmp_path / "none.csv")
    assert logbook.all(Subject) == []


def test_under_its_own_reference_a_subject_is_as_it_is(shelves, logbook, tmp_path):
    """A Planckian is its own reference; a light without deep red is not, and dulls a red petal."""
    take(logbook, Terms(cct_k=3200.0, level_pct=100.0), shone(planckian(3200.0)))
    shelf = shelves[ShelfName.SUBJECTS]
    key, _ = shelf.take(write(tmp_path / "petal.csv", WAVELENGTH_NM[::5], GIVEN[::5]))
    (part,) = shelf.record(key)(logbook.path).parts
    assert [name for name, _ in part.rows] == ["Tansy"]
    assert part.patches[0].delta_e == pytest.approx(0.0, abs=0.02)
    assert part.rows[0][1].startswith("as it is, ΔE00 0.0, at bare · 3200 K")
    logbook.save(Source("p", "Poor"))
    poor = shone(planckian(3200.0) * np.where(WAVELENGTH_NM > 610.0, 0.4, 1.0))
    reading = Reading("q", "s", datetime(2026, 3, 2, tzinfo=UTC), 99, Terms(), ("p",), meter_id="m")
    logbook.commit_reading(reading, [], poor)
    logbook.save_computed(computed_of({"q": poor}))
    (part,) = shelf.record(key)(logbook.path).parts
    assert [name for name, _ in part.rows] == ["Tansy", "Poor"], "the truest first"
    assert part.patches[1].delta_e > 3.0 and "duller" in part.rows[1][1]


def test_a_meter_on_a_wire_says_how_it_is_reached(tmp_path):
    from even_beam.answers.kit.meter_shelf import MeterShelf
    from even_beam.bench.records import Meter
    from even_beam.desk.kit.desk import KitDesk
    from even_beam.instruments.bench_file import Reached
    from even_beam.logbook.store import Logbook

    book = Logbook.create(tmp_path / "book.evenbeam")
    book.save(Meter("m", "Wall meter"), Meter("n", "Pocket meter"))
    wired = {"wall meter": Reached("scpi", "TCPIP::127.0.0.1::5025::SOCKET", {"identity": "PHOTO"})}
    shelf = MeterShelf(KitDesk(book), lambda: wired)
    (part,) = [part for part in shelf.page("m").parts if part.title == "on a wire"]
    assert part.rows == (
        ("driver", "scpi"), ("address", "TCPIP::127.0.0.1::5025::SOCKET"), ("says of itself", "PHOTO"),
    )  # fmt: skip
    assert all(part.title != "on a wire" for part in shelf.page("n").parts)
    book.close()


def test_a_meter_says_whether_it_agrees_with_others(tmp_path):
    from even_beam.answers.kit.meter_shelf import MeterShelf
    from even_beam.desk.kit.desk import KitDesk
    from even_beam.logbook.store import Logbook
    from tests.answers.sharing.benches import Bench

    bench = Bench(tmp_path / "book.evenbeam")
    wall, pocket, idle = (bench.meter(name) for name in ("Wall meter", "Pocket meter", "Idle meter"))
    session = bench.session("Evening")
    for name, level in (("Tansy", 800.0), ("Fennel", 500.0), ("Lovage", 250.0), ("Ivy", 90.0)):
        lamp = bench.lamp(name)
        bench.read(session, lamp, level, meter_id=wall)
        bench.read(session, lamp, level / 1.1, meter_id=pocket)
    book = Logbook.open(bench.path)
    shelf = MeterShelf(KitDesk(book))
    for key in (wall, pocket):
        (part,) = shelf.record(key)(bench.path).parts
        ((_, said),) = part.rows
        more = "Wall meter reads 0.14 stops brighter than Pocket meter"
        less = "Pocket meter reads 0.14 stops darker than Wall meter"
        assert said.startswith((more, less)) and "4 pairs of" in said
    assert shelf.record(idle) is None
    book.close()

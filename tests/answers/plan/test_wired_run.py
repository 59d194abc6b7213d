"""A run that reads by itself, over real wires, against stand-ins that have faults."""

import json
import re
import signal
import subprocess
import sys
import time
from datetime import UTC, datetime
from itertools import pairwise

import numpy as np
import pytest

from even_beam.answers.plan import run_plan
from even_beam.answers.plan.run_plan import read_plan
from even_beam.answers.plan.wired_run import begun as begun_run
from even_beam.bench.ambient import is_ambient
from even_beam.bench.planning.protocols import Protocol
from even_beam.bench.records import Step
from even_beam.bench.steadiness import Look, is_steady
from even_beam.collection.collection import Collection
from even_beam.collection.files import open_or_create
from even_beam.instruments.protocols import InstrumentError
from even_beam.logbook.store import Logbook
from tests.instruments.wires import stand_ins

PLAN = {
    "name": "By itself",
    "lamps": ["Tansy"],
    "protocols": ["dimming sweep"],
    "whites": "5600 3200",
    "levels": "100 50 10",
}
STEPS = 7


def planned(tmp_path, **changes):
    path = tmp_path / "plan.json"
    path.write_text(json.dumps({**PLAN, **changes}))
    return path


def run_of(tmp_path, bench, plan=None, ask=lambda words: False):
    """The lines of a run to its end, what was left, and every reading that counts."""
    book = open_or_create(tmp_path / "book.evenbeam")
    going, _ = begun_run(read_plan(plan or planned(tmp_path)), book, lambda: datetime.now(UTC), bench)
    lines = list(going.lines(ask))
    collection = Collection(book)
    readings = [m for session in collection.sessions for m in collection.readings_in(session.id) if m.state.counts]
    steps = [step for session in collection.sessions for step in book.of_session(Step, session.id)]
    left = going.left
    book.close()
    return lines, left, readings, steps


def at_rest(made):
    """Whether the lamps go dark within four seconds."""
    for _ in range(40):
        time.sleep(0.1)
        if all(lamp.told.get("level") == 0.0 for lamp in made.room.lamps.values()):
            return True
    return False


def test_a_sheet_is_read_to_its_end_and_the_lamp_is_dark(tmp_path):
    with stand_ins(tmp_path) as made:
        lines, left, readings, steps = run_of(tmp_path, made.bench)
        assert at_rest(made) and made.lamps.packets[-1].is_terminated
    assert not left
    lit = [m for m in readings if not is_ambient(m)]
    assert len(lit) == 2 * 6 + 1 and len(readings) == len(lit) + 1
    assert {m.reading.step_id for m in lit} == {step.id for step in steps}
    assert sum(line.startswith("committed ") for line in lines) == len(readings)
    full = np.mean([m.value("illuminance") for m in lit if m.terms.level_pct == 100.0 and m.terms.cct_k == 5606.0])
    for m in lit:
        if m.terms.cct_k == 5606.0:  # the model is linear; its meter scatters by 0.3 %
            assert m.value("illuminance") == pytest.approx(full * m.terms.level_pct / 100.0, rel=0.015)
        assert m.value("cct") == pytest.approx(m.terms.cct_k, rel=0.02)
    assert all(m.computed is not None and m.value("ra") > 80.0 for m in lit)


def test_what_a_dial_of_steps_made_of_it_stands_with_the_reading(tmp_path):
    """8 bits over 3800 K: 5600 K becomes 195/255 of it, 5606 K; 3200 K becomes 34/255, 3207 K."""
    with stand_ins(tmp_path) as made:
        _, left, readings, _ = run_of(tmp_path, made.bench, planned(tmp_path, levels="100"))
    assert not left
    assert {m.terms.cct_k for m in readings if not is_ambient(m)} == {5606.0, 3207.0}


def test_a_lamp_that_takes_its_time_is_waited_for(tmp_path):
    with stand_ins(tmp_path, faults=["slow"]) as made:
        _, left, readings, _ = run_of(tmp_path, made.bench, planned(tmp_path, whites="5600", levels="100 10"))
    assert not left
    full = max(m.value("illuminance") for m in readings)
    for m in readings:
        if not is_ambient(m):
            assert m.value("illuminance") == pytest.approx(full * m.terms.level_pct / 100.0, rel=0.03)


@pytest.mark.parametrize("fault", ["hang@9", "drop@9", "error@9", "lossy"])
def test_a_fault_that_passes_costs_nothing(tmp_path, fault):
    with stand_ins(tmp_path, faults=[fault]) as made:
        _, left, readings, _ = run_of(tmp_path, made.bench, planned(tmp_path, whites="5600", levels="100 10"))
        assert at_rest(made)
    assert not left
    _fit(readings)


@pytest.mark.parametrize(
    ("fault", "words"),
    [
        ("unit@40", "in lx, and the bench file says fc"),
        ("stale@40", "same to the last digit again and again"),
        ("deaf", "stays dark at 100 %"),
    ],
)
def test_a_fault_that_stays_stops_the_run_and_keeps_nothing_wrong(tmp_path, fault, words):
    with stand_ins(tmp_path, faults=[fault]) as made:
        lines, left, readings, _ = run_of(tmp_path, made.bench)
        assert at_rest(made)
    assert words in left and lines[-1] == f"{left} The same command goes on from there."
    _fit(readings)
    with stand_ins(tmp_path) as made:  # mended: it goes on to its end
        lines, left, readings, steps = run_of(tmp_path, made.bench)
    assert not left
    taken = [m.reading.step_id for m in readings if not is_ambient(m)]
    assert set(taken) == {step.id for step in steps} and len(taken) == 2 * 6 + 1
    _fit(readings)


def _fit(readings):
    lit = [m for m in readings if not is_ambient(m)]
    full = {m.terms.cct_k: m.value("illuminance") for m in lit if m.terms.level_pct == 100.0}
    for m in lit:
        assert m.value("illuminance") == pytest.approx(full[m.terms.cct_k] * m.terms.level_pct / 100.0, rel=0.03)


def test_a_lamp_that_hears_another_universe_does_not_follow_and_it_is_said(tmp_path):
    """Lit by another hand it is not dark, and no change that is asked changes it."""
    with stand_ins(tmp_path, faults=["deaf"]) as made:
        made.room.tell("Tansy", {"level": 60.0, "cct": 4000.0})
        made.room._ambient = made.room._ambient * 0.0
        for lamp in made.lamps._lamps:
            lamp.is_deaf = True
        bench = made.bench
        lines, left, _, _ = run_of(tmp_path, bench)
    assert re.search("does not follow|stays dark", left), lines


def test_a_person_is_asked_for_what_no_wire_sets(tmp_path):
    asked = []

    def done(words):
        asked.append(words)
        return True

    plan = planned(tmp_path, protocols=["distance walk"], walk="2 m, 3 m", whites="", levels="")
    with stand_ins(tmp_path) as made:
        _, left, _, _ = run_of(tmp_path, made.bench, plan, done)
    assert not left
    assert len(asked) >= 1 and "2 m" in asked[0] and asked[0].startswith("by hand: ")


def test_without_a_person_it_stops_there_with_the_lamp_dark(tmp_path):
    plan = planned(tmp_path, protocols=["distance walk"], walk="2 m, 3 m", whites="", levels="")
    with stand_ins(tmp_path) as made:
        _, left, readings, _ = run_of(tmp_path, made.bench, plan)
        assert at_rest(made)
    assert "nobody is there to set it by hand" in left
    assert {m.terms.distance_m for m in readings} == {3.0}


def test_one_light_again_and_again_is_read_at_its_moments_with_the_lamp_lit(tmp_path, monkeypatch):
    """A warm-up is a series in time: of each reading the moment is part of the figure."""
    warm = Protocol("warm", "when it has settled", levels_pct=(100.0,), again_after_min=(0.0, 0.03, 0.07), repeats=1)
    monkeypatch.setattr(run_plan, "all_protocols", lambda: (warm,))
    with stand_ins(tmp_path) as made:
        _, left, readings, _ = run_of(tmp_path, made.bench, planned(tmp_path, protocols=["warm"], whites="", levels=""))
        dark = [packet for packet in made.lamps.packets if packet.slots[:2] == b"\x00\x00"]
        lit_from = next(n for n, packet in enumerate(made.lamps.packets) if packet.slots[:2] == b"\xff\xff")
    assert not left
    at = [m.reading.at for m in readings if not is_ambient(m)]
    assert [(b - a).total_seconds() for a, b in pairwise(at)] == pytest.approx([1.8, 2.4], abs=0.5)
    held = [packet.slots[:2] for packet in made.lamps.packets[lit_from:]]
    assert dark and held.index(b"\x00\x00") >= 0.8 * len(held), "lit from the first reading to the last"


def test_what_a_lamp_cannot_be_set_to_is_left_out_with_a_word(tmp_path):
    with stand_ins(tmp_path) as made:
        lines, left, readings, _ = run_of(tmp_path, made.bench, planned(tmp_path, whites="5600 9000", levels="100"))
    assert not left
    assert any("left out, cct 9000 is not between 2700 and 6500" in line for line in lines)
    assert {m.terms.cct_k for m in readings if not is_ambient(m)} == {5606.0}


def test_a_lamp_that_nobody_knows_is_told(tmp_path):
    with stand_ins(tmp_path) as made:
        with pytest.raises((InstrumentError, ValueError), match="“Nobody” is neither in the Kit nor in the bench file"):
            run_of(tmp_path, made.bench, planned(tmp_path, lamps=["Nobody"]))


# --- killed, ended, gone on with

EVEN_BEAM = [sys.executable, "-m", "even_beam"]


def begun(tmp_path, made):
    return subprocess.Popen(
        [*EVEN_BEAM, "run", str(tmp_path / "plan.json"), str(tmp_path / "book.evenbeam"), "--bench", str(made.file)],
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        stdin=subprocess.DEVNULL,
        text=True,
    )


def until(process, count):
    found = []
    while len(found) < count and (line := process.stdout.readline()):
        found += [int(number) for number in re.findall(r"^committed (\d+)", line)]
    return found


def test_whatever_ends_it_loses_nothing_and_it_goes_on(tmp_path):
    planned(tmp_path)
    confirmed = []
    with stand_ins(tmp_path) as made:
        for ended_by, after in ((signal.SIGKILL, 3), (signal.SIGTERM, 2), (signal.SIGINT, 2)):
            process = begun(tmp_path, made)
            confirmed += until(process, after)
            process.send_signal(ended_by)
            out, err = process.communicate(timeout=30)
            confirmed += [int(number) for number in re.findall(r"^committed (\d+)", out, re.MULTILINE)]
            if ended_by != signal.SIGKILL:
                assert process.returncode == 3, (out, err)
                assert f"{ended_by.name} came. The same command goes on from there." in out
                assert at_rest(made) and made.lamps.packets[-1].is_terminated
            else:
                assert at_rest(made)  # by the lamp's own behaviour when the data end
        process = begun(tmp_path, made)
        out, err = process.communicate(timeout=60)
        assert process.returncode == 0, (out, err)
        confirmed += [int(number) for number in re.findall(r"^committed (\d+)", out, re.MULTILINE)]
        assert at_rest(made)
    book = Logbook.open(tmp_path / "book.evenbeam")
    (session,) = book.sessions()
    taken = [reading.sequence for reading in book.readings(session.id)]
    per_step = [reading.step_id for reading in book.readings(session.id) if reading.step_id]
    steps = {step.id: step.repeats for step in book.of_session(Step, session.id)}
    book.close()
    assert set(confirmed) <= set(taken) and len(set(confirmed)) == len(confirmed)
    assert {step: per_step.count(step) for step in steps} == steps


def test_how_it_is_used_is_told(tmp_path):
    planned(tmp_path)
    said = [*EVEN_BEAM, "run", str(tmp_path / "plan.json"), str(tmp_path / "book.evenbeam")]
    found = subprocess.run(said, check=False, capture_output=True, text=True, timeout=60)
    assert found.returncode == 2 and "--simulate, or --bench" in found.stderr
    (tmp_path / "bench.toml").write_text("[meter.A]\ndriver = 'crystal ball'\n[lamp.Tansy]\ndriver = 'sacn'")
    found = subprocess.run(
        [*said, "--bench", str(tmp_path / "bench.toml")], check=False, capture_output=True, text=True, timeout=60
    )
    assert found.returncode == 1 and "no driver “crystal ball”" in found.stderr


# --- steadiness


def settling(tau, scatter, every, seconds, seed, step=1.0):
    """Looks at a light that comes to its end exponentially, by a meter that scatters."""
    random = np.random.default_rng(seed)
    at = np.arange(0.0, seconds, every)
    level = (1.0 + step * np.exp(-at / tau)) * (1.0 + scatter * random.standard_normal(at.size))
    return [Look(float(t), float(v)) for t, v in zip(at, level, strict=True)]


@pytest.mark.parametrize(
    ("tau", "every"), [(0.05, 0.01), (0.3, 0.02), (1.0, 0.03), (1.0, 0.1), (1.0, 0.25), (0.3, 0.5)]
)
@pytest.mark.parametrize("step", [9.0, -0.9])
def test_light_that_is_called_steady_is_near_its_end(tau, every, step):
    """By a closed form: level = end (1 + exp(-t / tau)); of twenty-five seeds."""
    off = []
    for seed in range(25):
        looks = settling(tau, 0.003, every, 15.0, seed, step)
        n = next(n for n in range(4, len(looks)) if is_steady(looks[max(n - 300, 0) : n]))
        off.append(abs(step) * float(np.exp(-looks[n - 1].at_s / tau)))
    assert np.quantile(off, 0.95) < 0.025, (tau, every, np.quantile(off, 0.95))


def test_light_that_stands_still_is_soon_steady():
    waited = []
    for seed in range(40):
        looks = settling(0.05, 0.003, 0.02, 20.0, seed, step=0.0)
        waited.append(next(looks[n - 1].at_s for n in range(1, len(looks)) if is_steady(looks[:n])))
    assert np.quantile(waited, 0.95) < 2.0


@pytest.mark.parametrize("step", [9.0, -0.9])
def test_looks_that_come_in_bursts_do_not_hide_a_slope(step):
    """A busy machine lets a meter wait and then has four looks at once: they see nothing of the time."""
    off = []
    for seed in range(25):
        every = settling(1.0, 0.003, 0.025, 15.0, seed, step)
        bursts = [look for n, look in enumerate(every) if n % 24 < 4]
        n = next(n for n in range(4, len(bursts)) if is_steady(bursts[:n]))
        off.append(abs(step) * float(np.exp(-bursts[n - 1].at_s)))
    assert np.quantile(off, 0.95) < 0.025

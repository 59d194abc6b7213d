"""What a run that reads by itself adds to the meter's and the lamp's own time, with instruments that take none.

`python -m benchmarks.wires KILLS [SEED]` kills and ends a run over real wires at random moments: every committed
reading is there, none twice, the lamp is dark, and the sheet is read whole in the end.
"""

import json
import random
import re
import signal
import subprocess
import sys
import tempfile
import time
from datetime import UTC, datetime
from pathlib import Path

import numpy as np

from even_beam.answers.plan.hands import Hands
from even_beam.answers.plan.wired_run import WiredRun
from even_beam.bench.planning.protocols import Protocol
from even_beam.bench.planning.run_sheet import Bench, LampPlan, make_plan
from even_beam.bench.records import Meter, Source, Spectrum, Terms
from even_beam.desk.session.document import Document
from even_beam.instruments.protocols import MeterReading
from even_beam.instruments.simulated_lamps import LAMPS
from even_beam.instruments.stand_ins.bench import StandIns
from even_beam.light import WAVELENGTH_NM
from even_beam.logbook.integrity import check
from even_beam.logbook.store import Logbook
from even_beam.shell.settings import Settings

WANTED_MS, GROWTH = 50.0, 1.2


class AtOnce:
    """A lamp and a meter in one that take no time: what is set is there."""

    quantities: tuple[str, ...] = ("illuminance", "cct")
    has_spectrum = True
    reads_at_once = True
    limits = {"level": (0.0, 100.0), "cct": (2700.0, 6500.0)}  # noqa: RUF012

    def __init__(self) -> None:
        self._random = np.random.default_rng(1)
        self._terms = Terms(level_pct=0.0, distance_m=2.0)

    def connect(self) -> str:
        """It is always there."""
        return "at once"

    def zero(self) -> None:
        """It has no dark signal."""

    def set(self, terms):  # type: ignore[no-untyped-def]  # noqa: D102
        self._terms = Terms(level_pct=terms["level"], cct_k=terms["cct"], distance_m=2.0)
        return terms

    def rest(self) -> None:
        """Dark."""
        self._terms = Terms(level_pct=0.0, distance_m=2.0)

    def close(self) -> None:
        """Nothing is held."""

    def read(self) -> MeterReading:
        """What arrives now."""
        light = LAMPS["six-emitter colour light"].irradiance(self._terms)
        light = light * (1.0 + 0.003 * self._random.standard_normal()) + 1e-6
        figures = {"illuminance": 683.0 * float(light.sum()) * 0.3}
        return MeterReading(figures, Spectrum(WAVELENGTH_NM.copy(), light))


def report() -> list[str]:
    """The median of what a turn takes beside looking at the light, and whether it grows."""
    own = Protocol("many", "much", white_range_k=(2700.0, 6500.0), white_step_mired=2.0, levels_pct=(100.0, 25.0, 5.0))
    meter = Meter("m", "Meter")
    plan = make_plan([LampPlan("lamp")], [own], Bench(meter, meter))
    with tempfile.TemporaryDirectory() as folder:
        book = Logbook.create(Path(folder) / "book.evenbeam")
        book.save(meter, Source("lamp", "Tansy"))
        document = Document(book, Settings(), lambda: datetime.now(UTC))
        desk = document.begin_plan(plan, "many")
        both = AtOnce()
        run = WiredRun(desk, Hands({"m": both}, {"lamp": both}, {"lamp": "Tansy"}))
        taken = []
        while (turn := run.turn()) is not None:
            raw = both.read() if turn.asked is None else (both.set(_of(turn.asked.terms)), both.read())[1]
            began = time.perf_counter()
            run.keep(turn, raw)
            run.turn()
            taken.append(1000.0 * (time.perf_counter() - began))
        book.close()
    first, last = np.median(taken[5:55]), np.median(taken[-50:])
    return [
        f"{len(taken)} readings: {np.median(taken):.0f} ms to commit, judge and find the next (wanted: at most"
        f" {WANTED_MS:.0f} ms); the last fifty {last / first:.2f}x the first (wanted: at most {GROWTH}x)"
    ]


def _of(terms: Terms) -> dict[str, float]:
    return {"level": terms.level_pct or 0.0, "cct": terms.cct_k or 5600.0}


PLAN = {"name": "Wires", "lamps": ["Tansy"], "protocols": ["dimming sweep"], "levels": "100 50 25 10"}


def torture(kills: int, seed: int) -> list[str]:
    """What went wrong."""
    rng, faults, confirmed = random.Random(seed), [], []
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        plan, book = folder / "plan.json", folder / "book.evenbeam"
        plan.write_text(json.dumps(PLAN), encoding="utf-8")
        made = StandIns(
            folder, {"Tansy": "six-emitter colour light"}, {"spectrometer": "Wall meter"}, {}, host="127.0.0.9"
        )
        made.start()
        command = [sys.executable, "-m", "even_beam", "run", str(plan), str(book), "--bench", str(made.file)]
        for number in range(kills + 1):
            process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
            if number < kills:
                time.sleep(rng.uniform(1.0, 3.0))
                process.send_signal(rng.choice([signal.SIGKILL, signal.SIGTERM, signal.SIGINT, signal.SIGHUP]))
            out, _ = process.communicate()
            confirmed += [int(found) for found in re.findall(r"^committed (\d+)", out, re.MULTILINE)]
            until = time.monotonic() + 4.0
            while made.room.lamps["Tansy"].told.get("level") and time.monotonic() < until:
                time.sleep(0.05)
            if made.room.lamps["Tansy"].told.get("level"):
                faults.append(f"lit after end {number + 1}")
            if process.returncode == 0 and number < kills:
                plan.write_text(json.dumps({**PLAN, "name": f"Wires {number}"}), encoding="utf-8")
        made.close()
        if not check(book).sound:
            faults.append("the logbook is damaged")
        logbook = Logbook.open_to_read(book)
        taken = [reading.sequence for s in logbook.sessions() for reading in logbook.readings(s.id)]
        logbook.close()
    if len(confirmed) > len(taken):
        faults.append(f"{len(confirmed)} confirmed, {len(taken)} kept")
    return faults


if __name__ == "__main__":
    ends, number = int(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else random.randrange(10**6)
    wrong = torture(ends, number)
    print(f"{ends} ends over wires, seed {number}: {'; '.join(wrong) or 'nothing lost, lamp dark each time'}")
    sys.exit(bool(wrong))

"""Kills a run and its window in turn at random moments: no reading that was confirmed may be lost, nor the logbook
damaged.

`python -m benchmarks.torture [KILLS] [SEED]`, some moments after a random number of readings were confirmed. The window
goes on with the run that was killed, and the run with what the window left.
"""

import json
import random
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from even_beam.logbook.integrity import check
from even_beam.logbook.store import Logbook

PLAN = {"lamps": [{"nickname": "Tansy", "simulated": "six-emitter colour light"}], "protocols": ["head to head"]}


def confirmed(command: list[str], lines: int, seconds: float) -> list[str]:
    """The lines that a process printed before it was killed, some moments after so many of them."""
    process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True)
    assert process.stdout is not None
    first = [line for _, line in zip(range(lines), process.stdout, strict=False)]
    time.sleep(seconds)
    process.kill()
    out, _ = process.communicate()
    return [*first, *out.splitlines()]


def kept(path: Path) -> int:
    """How many readings a logbook holds."""
    logbook = Logbook.open_to_read(path)
    try:
        return sum(len(logbook.readings(session.id)) for session in logbook.sessions())
    finally:
        logbook.close()


def torture(kills: int, seed: int) -> tuple[int, int, list[str]]:
    """Kills, confirmed readings, and what went wrong."""
    rng = random.Random(seed)
    faults: list[str] = []
    total = 0
    with tempfile.TemporaryDirectory() as name:
        plan, book = Path(name) / "plan.json", Path(name) / "book.evenbeam"
        plan.write_text(json.dumps(PLAN), encoding="utf-8")
        known = 0
        for number in range(kills):
            run = [sys.executable, "-m", "even_beam", "run", str(plan), str(book), "--simulate"]
            window = [sys.executable, "-m", "benchmarks.window_at_work", str(book)]
            command = window if number % 2 and book.exists() else run
            lines = confirmed(command, rng.randint(0, 8), rng.uniform(0.0, 0.06))
            said = sum(line.strip()[:1].isdigit() for line in lines)
            total += said
            if not book.exists():
                continue
            now = kept(book)
            if now < known + said:
                faults.append(f"kill {number}: {said} readings were confirmed, {now - known} are kept")
            report = check(book)
            if report.problems:
                faults.append(f"kill {number}: {report.problems[0]}")
            known = now
    return kills, total, faults


if __name__ == "__main__":
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 300
    chosen = int(sys.argv[2]) if len(sys.argv) > 2 else random.SystemRandom().randrange(10**6)
    done, readings, wrong = torture(count, chosen)
    print(f"seed {chosen}: {done} kills, {readings} confirmed readings, {len(wrong)} faults")
    for line in wrong[:10]:
        print(f"  {line}")
    sys.exit(1 if wrong else 0)

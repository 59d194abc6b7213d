"""Kills a process at a random moment of what it does with a logbook, and looks at what is there then: nothing that was
confirmed is lost, nothing of another file is mixed in, and the file opens.

`python -m benchmarks.moments [KILLS] [SEED]`.
"""

import os
import random
import shutil
import signal
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Callable
from pathlib import Path

from even_beam.answers.intake.importing import import_files
from even_beam.collection.files import open_or_create
from even_beam.demo.scenario import build
from even_beam.logbook.integrity import check
from even_beam.logbook.store import Logbook
from tests.logbook.killed import BEGAN, an_evening, killed, levels_in, take
from tests.logbook.older_formats import FORMATS, LEVELS
from tests.logbook.older_formats import killed as older

Looked = Callable[[], str]
"""What is wrong afterwards, empty where nothing is."""


def _migration(folder: Path, rng: random.Random) -> tuple[Callable[[], object], Looked, float]:
    in_the_log = rng.randrange(10)
    path = older(rng.choice(FORMATS), folder / "book.evenbeam", in_the_log)

    def looked() -> str:
        if check(path).problems:
            return f"{check(path).problems[0]}"
        book = Logbook.open(path)
        found = [r.values[0].value for s in book.sessions() for r in book.readings(s.id)]
        book.close()
        return "" if found == list(LEVELS[: 3 + in_the_log]) else f"{len(found)} readings of {3 + in_the_log}"

    return lambda: Logbook.open(path).close(), looked, 0.12


def _copy(folder: Path, rng: random.Random) -> tuple[Callable[[], object], Looked, float]:
    source = an_evening(folder / "book.evenbeam", "own", [800.0, 810.0])
    target = killed(an_evening(folder / "target.evenbeam", "other", [100.0]), [110.0, 120.0])

    def act() -> None:
        Logbook.open(source).save_copy(target)

    def looked() -> str:
        found = levels_in(source), levels_in(target)
        for path in (source, target):
            Logbook.open(path).close()
        found += levels_in(source), levels_in(target)
        right = ([800.0, 810.0], [100.0, 110.0, 120.0]), ([800.0, 810.0], [800.0, 810.0])
        return "" if found[:2] in right and found[2:] == found[:2] else f"{found}"

    return act, looked, 0.12


def _commits(folder: Path, rng: random.Random) -> tuple[Callable[[], object], Looked, float]:
    path = an_evening(folder / "book.evenbeam", "own", [800.0])
    told = folder / "told"

    def act() -> None:
        book = Logbook.open(path)
        with told.open("w") as said:
            for number in range(100):
                take(book, "s-own", 900.0 + number)
                said.write(f"{number}\n")
                said.flush()

    def looked() -> str:
        confirmed = len(told.read_text().split()) if told.exists() else 0
        Logbook.open(path).close()
        found = levels_in(path)
        whole = found == [800.0, *(900.0 + n for n in range(len(found) - 1))]
        return "" if whole and len(found) - 1 >= confirmed else f"{confirmed} confirmed, {len(found) - 1} there"

    return act, looked, 0.3


def _import(folder: Path, rng: random.Random) -> tuple[Callable[[], object], Looked, float]:
    table, path = folder / "old.csv", folder / "book.evenbeam"
    rows = [f"Evening {e},Lamp {n % 7},5600,illuminance,{800 + n},lx" for e in range(4) for n in range(60)]
    table.write_text("session,fixture,cct_k,quantity,value,unit\n" + "\n".join(rows))

    def act() -> None:
        book = open_or_create(path)
        import_files([table], book, lambda: BEGAN)
        book.close()

    def looked() -> str:
        if not path.exists():
            return ""
        book = Logbook.open(path)
        found = {s.name: len(book.readings(s.id)) for s in book.sessions()}
        book.close()
        return "" if set(found.values()) <= {60} else f"{found}"

    return act, looked, 0.4


def _demo(folder: Path, rng: random.Random) -> tuple[Callable[[], object], Looked, float]:
    path = killed(an_evening(folder / "demo.evenbeam", "own", [800.0]), [810.0])

    def looked() -> str:
        Logbook.open(path).close()
        return "" if levels_in(path)[:2] == [800.0, 810.0] or len(levels_in(path)) > 100 else "neither old nor new"

    return lambda: build(path), looked, 12.0


DOORS = {"migration": _migration, "copy": _copy, "commits": _commits, "import": _import}


def killed_at(act: Callable[[], object], seconds: float) -> None:
    """Do something in a process of its own, and kill it after a while."""
    child = os.fork()
    if child == 0:
        try:
            act()
        finally:
            os._exit(0)
    time.sleep(seconds)
    os.kill(child, signal.SIGKILL)
    os.waitpid(child, 0)


def moments(kills: int, seed: int, demos: int = 0) -> tuple[Counter[str], list[str]]:
    """How often each door was killed, and what was wrong."""
    rng, counts, faults = random.Random(seed), Counter[str](), []
    names = [*(rng.choice(list(DOORS)) for _ in range(kills)), *(["demo"] * demos)]
    for name in names:
        folder = Path(tempfile.mkdtemp())
        try:
            act, looked, longest = (DOORS | {"demo": _demo})[name](folder, rng)
            killed_at(act, rng.uniform(0.0, longest))
            counts[name] += 1
            if wrong := looked():
                faults.append(f"{name}: {wrong}")
        except Exception as error:
            faults.append(f"{name}: {type(error).__name__}: {error}")
        finally:
            shutil.rmtree(folder, ignore_errors=True)
    return counts, faults


if __name__ == "__main__":
    many = int(sys.argv[1]) if len(sys.argv) > 1 else 200
    chosen = int(sys.argv[2]) if len(sys.argv) > 2 else random.SystemRandom().randrange(10**6)
    done, wrong = moments(many, chosen, demos=max(1, many // 50))
    said = ", ".join(f"{count} of {name}" for name, count in sorted(done.items()))
    print(f"seed {chosen}: killed at {sum(done.values())} moments ({said}): {len(wrong)} faults")
    for line in wrong[:10]:
        print(f"  {line[:300]}")
    sys.exit(1 if wrong else 0)

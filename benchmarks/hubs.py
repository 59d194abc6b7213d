"""Four benches and a hub: what they read meanwhile is nowhere lost and nowhere twice, and in the end all tell the same.

`python -m benchmarks.hubs ACTS [SEED]` lets benches read, change, take out and share at random; some shares are
processes that are killed at a random moment; parts come half, synchronising programs make copies, the hub is put back
to an earlier state, the server is stopped and started, and clocks are two days apart.
"""

import random
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime, timedelta, tzinfo
from pathlib import Path

from even_beam.answers.sharing.sharing import share
from even_beam.bench.records import Source
from even_beam.hubs import HubError
from even_beam.logbook import changes
from even_beam.logbook.store import Logbook
from tests.answers.sharing.benches import Bench
from tests.hubs.server import Server, programs

BENCHES = 4
LONGEST_SHARE_S = 2.0
"""A share is killed at some moment of so long."""


class Benches:
    """Four benches that begin with one logbook, or with logbooks of their own."""

    def __init__(self, folder: Path, chance: random.Random) -> None:
        self._chance, self._folder = chance, folder
        first = Bench(folder / "0.evenbeam")
        first.read(first.session("Together"), first.lamp("Tansy"), 100.0)
        self.all = [first, first.copy(folder / "1.evenbeam")]
        self.all += [Bench(folder / f"{number}.evenbeam") for number in range(2, BENCHES)]
        self.readings: set[str] = set()

    def work(self) -> None:
        """One of them does something, at the clock of its own."""
        bench, number = self._chance.choice(self.all), self._chance.randrange(4)
        sessions, lamps = [row[0] for row in bench.rows("session")], sorted(bench.rows("source"))
        what = self._chance.random()
        if not sessions or what < 0.1:
            bench.session(f"Evening {number}")
        elif not lamps or what < 0.2:
            name = f"Lamp {number}"
            if name not in {row[1] for row in lamps}:
                bench.lamp(name)
        elif what < 0.8:
            bench.read(self._chance.choice(sessions), self._chance.choice(lamps)[0], 100.0 + number)
        else:
            self._change(bench, self._chance.choice(lamps)[0], number)
        self.readings |= {row[0] for row in bench.rows("reading")}

    def _change(self, bench: Bench, lamp_id: str, number: int) -> None:
        book = Logbook.open(bench.path)
        lamp = next(one for one in book.identities(Source) if one.id == lamp_id)
        if number == 0 and lamp_id not in book.sessions_reading():
            book.exchange([lamp], [])
        else:
            book.save(replace(lamp, notes=f"note {self._chance.random():.6f}"))
        book.close()

    def new(self) -> Bench:
        """A bench that has nothing yet."""
        return Bench(self._folder / "new.evenbeam")


def share_whole(bench: Bench, address: str, ahead_s: float = 0.0) -> str:
    """Share once, by a clock that goes wrong; what was left, empty for nothing."""

    class Clock(datetime):
        """A clock that goes ahead."""

        @classmethod
        def now(cls, tz: tzinfo | None = None) -> "Clock":
            """Later than it is."""
            return super().now(tz) + timedelta(seconds=ahead_s)

    book = Logbook.open(bench.path)
    changes.datetime = Clock  # type: ignore[misc]
    try:
        return " ".join(share(book, address, lambda: datetime.now(UTC)).left)
    except HubError as error:
        return str(error)
    finally:
        changes.datetime = datetime  # type: ignore[misc]
        book.close()


def share_killed(bench: Bench, address: str, after_s: float) -> None:
    """Share in a process that is killed."""
    command = [sys.executable, "-m", "even_beam", "share", str(bench.path), address]
    process = subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    time.sleep(after_s)
    process.kill()
    process.wait()


class Folder:
    """A hub that is a folder, with what happens to one."""

    def __init__(self, folder: Path, chance: random.Random) -> None:
        self._chance, self._hub, self._week = chance, folder / "hub", folder / "last week"
        self.address = str(self._hub)

    def mishap(self) -> None:
        """A part comes half, a copy is made, or all is put back to an earlier state."""
        parts = sorted(self._hub.glob("*.part")) if self._hub.exists() else []
        match self._chance.randrange(4):
            case 0 if parts:
                self._half(self._chance.choice(parts))
            case 1 if parts:
                shutil.copy(parts[0], self._hub / f"{parts[0].stem} (conflicted copy).part")
            case 2 if self._hub.exists() and not self._week.exists():
                shutil.copytree(self._hub, self._week)
            case 3 if self._week.exists():
                shutil.rmtree(self._hub)
                self._week.rename(self._hub)

    def _half(self, part: Path) -> None:
        """One that is on its way: half of it here, the whole later."""
        whole = part.read_bytes()
        part.write_bytes(whole[: self._chance.randrange(len(whole))])
        self._whole = part, whole

    def mend(self) -> None:
        """What was on its way has arrived."""
        part, whole = getattr(self, "_whole", (None, b""))
        if part is not None and self._hub.exists():
            part.write_bytes(whole)

    def close(self) -> None:
        """Nothing runs."""


class OnServer:
    """A hub that is a server, stopped and started."""

    def __init__(self, folder: Path, chance: random.Random) -> None:
        self._chance, self._server = chance, Server()
        self._server.start()
        self.address, self._runs = self._server.database("hub"), True
        self._week = False

    def mishap(self) -> None:
        """It is stopped as by a power cut, or put back to an earlier state."""
        if not self._runs:
            self.mend()
        elif self._chance.random() < 0.5:
            self._server.stop()
            self._runs = False
        elif self._chance.random() < 0.5:
            self._server.save("hub", "last_week")
            self._week = True
        elif self._week:
            self._server.put_back("hub", "last_week")

    def mend(self) -> None:
        """It runs again."""
        if not self._runs:
            self._server.start()
            self._runs = True

    def close(self) -> None:
        """Stop it for good."""
        self.mend()
        self._server.close()


KINDS: dict[str, Callable[[Path, random.Random], Folder | OnServer]] = {"folder": Folder, "server": OnServer}


def evenings(kind: str, acts: int, seed: int) -> tuple[int, list[str]]:
    """So many acts with a hub of a kind; how many shares were killed, and what was found wrong in the end."""
    chance, killed = random.Random(seed), 0
    with tempfile.TemporaryDirectory(prefix="even-beam-") as name:
        hub = KINDS[kind](Path(name), chance)
        benches = Benches(Path(name), chance)
        try:
            for _ in range(acts):
                what = chance.random()
                if what < 0.5:
                    benches.work()
                elif what < 0.7:
                    share_whole(chance.choice(benches.all), hub.address, chance.choice((0.0, 172_800.0, -172_800.0)))
                elif what < 0.85:
                    share_killed(chance.choice(benches.all), hub.address, chance.uniform(0.2, LONGEST_SHARE_S))
                    killed += 1
                elif what < 0.95:
                    hub.mishap()
                else:
                    hub.mend()
            hub.mend()
            return killed, list(_wrong(benches, hub.address))
        finally:
            hub.close()


def _wrong(benches: Benches, address: str) -> list[str]:
    every = [*benches.all, benches.new()]
    for _ in range(3):
        left = [share_whole(bench, address) for bench in every]
    found = [f"{bench.path.stem}: {words}" for bench, words in zip(every, left, strict=True) if words]
    first = every[0].everything()
    for bench in every[1:]:
        differing = [table for table, rows in bench.everything().items() if rows != first[table]]
        if differing:
            found.append(f"{bench.path.stem} tells otherwise: {', '.join(differing)}")
    there = {row[0] for row in every[0].rows("reading")}
    if there != benches.readings:
        found.append(f"{len(benches.readings - there)} readings lost, {len(there - benches.readings)} too many")
    return found


def main() -> int:
    """Evenings with a hub of each kind; 1 where anything was wrong."""
    acts = int(sys.argv[1]) if len(sys.argv) > 1 else 60
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else random.randrange(10_000)
    wrong = 0
    for kind in KINDS:
        if kind == "server" and programs() is None:
            print("server: PostgreSQL is not installed")
            continue
        killed, faults = evenings(kind, acts, seed)
        print(f"{kind}, seed {seed}: {acts} acts, {killed} shares killed, {len(faults)} faults")
        for fault in faults:
            print(f"  {fault}")
        wrong += len(faults)
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())

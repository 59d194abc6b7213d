"""A store of many lamps: what each answer about all of them costs a lamp, and whether that grows with their number.

Figures are typed: five settings a lamp, each with level, white, tint and a score.
"""

import io
import random
import tempfile
from collections.abc import Callable
from datetime import UTC, datetime
from functools import partial
from pathlib import Path

from benchmarks.timing import best_of
from even_beam.answers.compare.as_json import comparison
from even_beam.answers.findings.as_json import findings_one_by_one
from even_beam.answers.intake.importing import import_files
from even_beam.answers.match.as_json import match
from even_beam.collection.collection import Collection
from even_beam.handing_over.material import Material
from even_beam.handing_over.sentences import statements
from even_beam.logbook.store import Logbook
from even_beam.shell.settings import Settings

FEW, MANY = 50, 200
SETTINGS = ((5600, 100), (5600, 50), (5600, 25), (3200, 100), (4300, 100))


def table(lamps: int) -> str:
    """The readings of a store as a table of past readings."""
    draw = random.Random(3)
    text = io.StringIO()
    text.write("session,fixture,cct_k,dimmer_pct,distance,quantity,value,unit,meter,time\n")
    for number in range(lamps):
        full, off = draw.uniform(600.0, 9000.0), draw.uniform(-14.0, 14.0)
        day = 1 + number * 28 // lamps
        for place, (white, level) in enumerate(SETTINGS):
            head = f"Day {day},Unit {number:04},{white},{level},2 m"
            tail = f"Wall meter,2026-02-{day:02}T18:{place:02}:00+00:00"
            for quantity, value, unit in (
                ("illuminance", f"{full * level / 100.0 * draw.gauss(1.0, 0.01):.1f}", "lx"),
                ("cct", f"{1e6 / (1e6 / white + off) * draw.gauss(1.0, 0.003):.0f}", "K"),
                ("duv", f"{draw.gauss(0.0, 0.001):.4f}", ""),
                ("ra", f"{draw.uniform(90.0, 97.0):.1f}", ""),
            ):
                text.write(f"{head},{quantity},{value},{unit},{tail}\n")
    return text.getvalue()


def _findings(path: Path) -> None:
    found = findings_one_by_one(Collection(Logbook.open_to_read(path)))
    sum(1 for _ in found["fixtures"])


def _compare(path: Path) -> None:
    collection = Collection(Logbook.open_to_read(path))
    comparison(collection, [source.nickname for source in collection.sources.values()])


def _match(path: Path) -> None:
    match(Collection(Logbook.open_to_read(path)), "cct=5600")


def _sentences(path: Path) -> None:
    statements(lambda: Material(Collection(Logbook.open_to_read(path)), Settings(), None))


ANSWERS: dict[str, Callable[[Path], None]] = {
    "findings": _findings, "compare": _compare, "match": _match, "sentences": _sentences,
}  # fmt: skip


def _imported(folder: Path, lamps: int) -> tuple[Path, float]:
    """A logbook of a store, and the seconds that its table took to come in."""
    rows = folder / f"{lamps}.csv"
    rows.write_text(table(lamps))
    path = folder / f"{lamps}.evenbeam"

    def come_in() -> None:
        path.unlink(missing_ok=True)
        book = Logbook.create(path)
        import_files([rows], book, lambda: datetime(2026, 12, 1, tzinfo=UTC))
        book.close()

    return path, best_of(come_in, 1)


def report() -> list[str]:
    """Lines with the ratios."""
    times = MANY // FEW
    with tempfile.TemporaryDirectory() as folder:
        (few, few_s), (many, many_s) = (_imported(Path(folder), lamps) for lamps in (FEW, MANY))
        lines = [f"a table of {times}x the lamps comes in {many_s / few_s / times:.2f}x as long a lamp"]
        for name, ask in ANSWERS.items():
            short, long = (best_of(partial(ask, path), 2) for path in (few, many))
            lines.append(
                f"{name} of {times}x the lamps: {long / short / times:.2f}x as long a lamp,"
                f" {long / many_s:.2f}x what their table took to come in"
            )
    return lines

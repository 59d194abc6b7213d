"""Commands that bring readings in: spectra looked at, tables and spectra imported, figures entered, plans run."""

import json
import sys
from collections.abc import Callable, Iterable, Mapping, Sequence
from datetime import UTC, datetime
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from even_beam.cli.group import LOGBOOK, main, printable, say, warn
from even_beam.words import notation

if TYPE_CHECKING:
    from even_beam.answers.plan.run_plan import RunPlan
    from even_beam.formats.readings_table import Table
    from even_beam.logbook.store import Logbook


@main.command()
@click.argument("files", nargs=-1, required=True, type=click.Path(path_type=Path))
@click.option("--against", type=click.Path(path_type=Path), help="Also compare each with this spectrum.")
@click.option("--ssi-reference", default="matched", help="P3200, D55, matched, or a file.")
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def inspect(files: Sequence[Path], against: Path | None, ssi_reference: str, as_json: bool) -> None:
    """Figures of spectra in any readable format."""
    from even_beam.answers.spectrum.inspection import InspectionError, Inspector, files_below

    try:
        inspector = Inspector(against, ssi_reference)
    except InspectionError as error:
        raise click.UsageError(str(error)) from error
    every = files_below(files)
    if not every:
        raise click.UsageError("no file of spectra is there")
    output = _FigureStream(inspector.text, as_json)
    failed = False
    with click.progressbar(every, file=sys.stderr, hidden=len(every) < 20 or not sys.stderr.isatty()) as progress:
        for path in progress:
            try:
                output.add(inspector.figures(path), alone=len(every) == 1)
            except InspectionError as error:
                failed = True
                warn(f"{error}")
    output.end()
    sys.exit(1 if failed else 0)


class _FigureStream:
    """Prints figures as they come: lines for people, or JSON (one object for one spectrum, an array for several)."""

    def __init__(self, text: Callable[[dict[str, Any]], str], as_json: bool) -> None:
        self._text, self._as_json = text, as_json
        self._printed = 0

    def add(self, spectra: Iterable[dict[str, Any]], *, alone: bool) -> None:
        """Print the figures of one file; `alone` when there is no other."""
        if self._as_json and alone:
            found = list(spectra)
            say(json.dumps(found[0] if len(found) == 1 else found, indent=1))
            return
        for figures in spectra:
            if self._as_json:
                say(("[\n" if self._printed == 0 else ",\n") + json.dumps(figures), nl=False)
            else:
                say(self._text(figures))
            self._printed += 1

    def end(self) -> None:
        """Close the array."""
        if self._as_json and self._printed:
            say("\n]")


@main.command(name="import")
@click.argument("readings", nargs=-1, required=True, type=click.Path(path_type=Path, exists=True))
@click.argument("logbook", type=LOGBOOK)
@click.option("--map", "pattern", default="", help="How spectra are named, such as “{lamp} {cct} {level}”; {any} too.")
@click.option("--columns", default="", help="What the columns of a table are: “Lamp,fc@10 ft,Ra,-”; - leaves one out.")
@click.option("--guess", is_flag=True, help="Take the columns for what their headings say, printed beforehand.")
@click.option("--keep", is_flag=True, help="Keep files of one lamp at the same terms as repeats of it.")
def import_(readings: Sequence[Path], logbook: Path, pattern: str, columns: str, guess: bool, keep: bool) -> None:
    """Bring a flat table of past readings (CSV, XLSX), or spectra, or folders of them, into sessions. What asks is not
    brought in: exit code 3."""
    from even_beam.answers.intake.importing import ASKS, AsSaid, import_files
    from even_beam.collection.files import PATIENCE_S, open_or_create

    named = tuple(part.strip() for part in columns.split(",")) if columns else ()
    said = AsSaid(pattern, named, guess, keep, _tell_of_length, _tell_of_columns)
    book = open_or_create(logbook, PATIENCE_S)
    try:
        report = import_files(readings, book, lambda: datetime.now(UTC), said)
    except ASKS as error:
        warn(str(error))
        raise click.exceptions.Exit(3) from error
    finally:
        begun_in_vain = book.is_new and not book.sessions()
        book.close()
        if begun_in_vain:
            book.path.unlink()
    for name, lamp, terms in report.taken_for:
        say(f"{name}: {lamp}, {terms}")
    for line in report.refused:
        warn(f"not imported: {line}")
    for line in report.passed_over:
        warn(f"left out: {line}")
    for line in report.doubts:
        warn(f"in doubt, counted in nothing until you keep it: {line}")
    for line in report.asks:
        warn(f"look at it once more, it counts: {line}")
    say(report.words.removesuffix("."))
    sys.exit(1 if report.refused else 0)


def _tell_of_columns(table: "Table", mapping: Mapping[str, str]) -> None:
    """What each column of a table was taken for."""
    from even_beam.answers.intake.preview import column_words
    from even_beam.formats.columns import heading

    for text in filter(None, table.headings):
        at = "".join(f", at {said}" for _, said in heading(text).at)
        say(f"{text}: {column_words(mapping.get(text, ''), heading(text).unit)}{at}")


ROWS_A_SECOND, LONG_S = 1000, 10.0
"""How fast rows come in, at least on a desk of today; and from how long on it is said."""


def _tell_of_length(table: "Table") -> None:
    """Say how long a large table takes, before it does."""
    seconds = len(table.rows) / ROWS_A_SECOND
    if seconds > LONG_S:
        words = f"{table.name} has {len(table.rows)} rows: that takes about {notation.span(seconds)}"
        warn(f"{words}. Ctrl C leaves it; a session comes in whole or not at all")


@main.command()
@click.argument("logbook", type=LOGBOOK)
@click.argument("text", nargs=-1, required=True)
@click.option("--fixture", required=True, help="The lamp that was read, by its nickname.")
@click.option("--at", "terms", default="", help="Its terms, such as “cct=5600;level=100;distance=2 m”.")
@click.option("--meter", default="", help="The meter the figures come from; one that is not named when not given.")
@click.option("--keep", is_flag=True, help="Keep a figure in doubt on purpose, marked.")
@click.option("--new", is_flag=True, help="Begin the logbook where there is none.")
@click.option("--new-lamp", is_flag=True, help="Add the lamp where the Kit has none of that name.")
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def enter(
    logbook: Path,
    text: Sequence[str],
    fixture: str,
    terms: str,
    meter: str,
    keep: bool,
    new: bool,
    new_lamp: bool,
    as_json: bool,
) -> None:
    """Keep figures as they are said, judged as at the Bench. What asks or is in doubt is not kept: exit code 3."""
    from even_beam.answers.bench.enter import enter as entered
    from even_beam.collection.files import PATIENCE_S, open_or_create
    from even_beam.logbook.store import Logbook
    from even_beam.shell.settings import load

    load()
    if not new and not logbook.exists():
        raise click.UsageError(f"{logbook.name} is not there; --new begins it")
    book = open_or_create(logbook, PATIENCE_S) if new else Logbook.open(logbook, PATIENCE_S)
    try:
        found = entered(
            book,
            lambda: datetime.now(UTC),
            fixture=fixture,
            at=terms,
            meter=meter,
            text=text,
            keep=keep,
            new_lamp=new_lamp,
        )
    finally:
        begun_in_vain = book.is_new and not book.sessions()
        book.close()
        if begun_in_vain:
            book.path.unlink()
    say(json.dumps(found.as_json(), indent=1, allow_nan=False) if as_json else found.words)
    if not found.kept and (found.said.choices or found.said.entries):
        raise click.exceptions.Exit(3)


@main.command()
@click.argument("plan", type=click.Path(path_type=Path, exists=True))
@click.argument("logbook", type=LOGBOOK)
@click.option("--simulate", is_flag=True, help="Read the simulated lamps.")
@click.option("--bench", type=click.Path(path_type=Path, exists=True), help="The meters and lamps on wires.")
@click.option("--anew", is_flag=True, help="Begin a new session, also where one of this plan was broken off.")
def run(plan: Path, logbook: Path, simulate: bool, bench: Path | None, anew: bool) -> None:
    """Run a plan without a window, or go on with it; a line after each committed reading.

    SIGTERM and Ctrl C end it: lamps on wires go to rest at once. Exit code 3 when steps are left.
    """
    from even_beam.answers.plan.run_plan import read_plan
    from even_beam.collection.files import PATIENCE_S, open_or_create

    if simulate is (bench is not None):
        raise click.UsageError("say --simulate, or --bench with the file that says how meters and lamps are reached")
    wanted = read_plan(plan)
    book = open_or_create(logbook, PATIENCE_S)
    try:
        if bench is not None:
            _run_by_wire(wanted, book, bench, anew=anew)
        else:
            _run_simulated(wanted, book, anew=anew)
    finally:
        book.close()


def _run_simulated(wanted: "RunPlan", book: "Logbook", *, anew: bool) -> None:
    import signal

    from even_beam.answers.plan.simulated_run import SimulatedRun

    going = SimulatedRun(wanted, book, lambda: datetime.now(UTC), anew=anew)
    signal.signal(signal.SIGTERM, lambda number, frame: going.stop())
    for line in going.lines():
        _say_at_once(line)


def _run_by_wire(wanted: "RunPlan", book: "Logbook", bench: Path, *, anew: bool) -> None:
    import signal

    from even_beam.answers.plan.wired_run import begun
    from even_beam.instruments.bench_file import read_bench

    going, taken_up = begun(wanted, book, lambda: datetime.now(UTC), read_bench(bench), anew=anew)
    for number in (signal.SIGTERM, signal.SIGINT, signal.SIGHUP):
        signal.signal(number, lambda number, frame: going.hands.stop(f"{signal.Signals(number).name} came."))
    if taken_up:
        _say_at_once(taken_up)
    try:
        for line in going.lines(_done_by_hand):
            _say_at_once(line)
    finally:
        going.hands.close()
    if not going.is_done:
        raise click.exceptions.Exit(3)


def _done_by_hand(words: str) -> bool:
    """Whether a person at the terminal has done it and pressed Enter; nobody is where no line comes."""
    return sys.stdin is not None and sys.stdin.readline() != ""


def _say_at_once(line: str) -> None:
    words = printable(line).encode(sys.stdout.encoding or "utf-8", "replace")
    click.echo(words.decode(sys.stdout.encoding or "utf-8"))
    sys.stdout.flush()

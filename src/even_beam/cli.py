"""The command line: every job that needs no window, and the window itself."""

import json
import os
import sys
from collections.abc import Callable, Iterable, Sequence
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import click

import even_beam
from even_beam.workspace.shell import memory

LOGBOOK = click.Path(path_type=Path)
MOST_TOLD = 5
"""So many clashes are told in words; JSON has all of them."""


class _DefaultToWindow(click.Group):
    """`even-beam FILE` opens the window: what is no command is a logbook."""

    def parse_args(self, ctx: click.Context, args: list[str]) -> list[str]:
        """Put `window` before anything that is not a command."""
        options = {"--help", "--version"}
        if not args or (args[0] not in self.commands and args[0] not in options):
            args = ["window", *args]
        return super().parse_args(ctx, args)


@click.group(cls=_DefaultToWindow)
@click.version_option(even_beam.__version__, prog_name="even-beam")
def main() -> None:
    """Even Beam: a test bench for film lights.

    Without a command it opens the window: even-beam [LOGBOOK] | --demo
    """
    memory.look_seldom()


def _fail(message: object) -> None:
    click.echo(f"even-beam: {message}", err=True)
    sys.exit(1)


@main.command()
@click.argument("logbook", required=False, type=LOGBOOK)
@click.option("--demo", is_flag=True, help="Open the demo logbook; it is built at the first start.")
def window(logbook: Path | None, demo: bool) -> None:
    """Open the window."""
    from even_beam.app.start import display_problem, run

    if problem := display_problem():
        _fail(f"{problem} The commands below `even-beam --help` work without one.")
    sys.exit(run(logbook, demo=demo))


@main.command()
@click.argument("files", nargs=-1, required=True, type=click.Path(path_type=Path))
@click.option("--against", type=click.Path(path_type=Path), help="Also compare each with this spectrum.")
@click.option("--ssi-reference", default="matched", help="P3200, D55, matched, or a file.")
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def inspect(files: Sequence[Path], against: Path | None, ssi_reference: str, as_json: bool) -> None:
    """Figures of spectra in any readable format."""
    from even_beam.workspace.spectrum.inspection import InspectionError, Inspector, files_below

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
                click.echo(f"even-beam: {error}", err=True)
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
            click.echo(json.dumps(found[0] if len(found) == 1 else found, indent=1))
            return
        for figures in spectra:
            if self._as_json:
                click.echo(("[\n" if self._printed == 0 else ",\n") + json.dumps(figures), nl=False)
            else:
                click.echo(self._text(figures))
            self._printed += 1

    def end(self) -> None:
        """Close the array."""
        if self._as_json and self._printed:
            click.echo("\n]")


@main.command(name="import")
@click.argument("readings", nargs=-1, required=True, type=click.Path(path_type=Path, exists=True))
@click.argument("logbook", type=LOGBOOK)
@click.option("--map", "pattern", default="", help="How spectra are named, such as “{lamp} {cct} {level}”; {any} too.")
def import_(readings: Sequence[Path], logbook: Path, pattern: str) -> None:
    """Bring a flat table of past readings (CSV, XLSX), or spectra, or folders of them, into sessions."""
    from even_beam.formats import FormatError
    from even_beam.logbook import LogbookError
    from even_beam.workspace.intake.importing import import_files
    from even_beam.workspace.logbook.files import open_or_create

    was_there = logbook.exists()
    try:
        book = open_or_create(logbook)
        try:
            report = import_files(readings, book, lambda: datetime.now(UTC), pattern)
        finally:
            book.close()
    except (FormatError, LogbookError) as error:
        if isinstance(error, FormatError) and not was_there:
            logbook.unlink()  # nothing is in it
        _fail(error)
        return
    for line in report.refused:
        click.echo(f"even-beam: not imported: {line}", err=True)
    for line in report.doubts:
        click.echo(f"even-beam: in doubt, counted in nothing until you keep it: {line}", err=True)
    click.echo(report.words.removesuffix("."))
    sys.exit(1 if report.refused else 0)


@main.command()
@click.argument("logbook", type=LOGBOOK)
@click.option("--to", "kind", type=click.Choice(["csv", "xlsx", "json"]), required=True)
@click.argument("out", type=click.Path(path_type=Path))
def export(logbook: Path, kind: str, out: Path) -> None:
    """Write all readings as a table."""
    from even_beam.formats import FormatError
    from even_beam.logbook import LogbookError
    from even_beam.logbook.store import Logbook
    from even_beam.workspace.logbook.collection import Collection
    from even_beam.workspace.report.content import write_table

    try:
        count = write_table(Collection(Logbook.open_to_read(logbook)), out.with_suffix(f".{kind}"))
    except (FormatError, LogbookError) as error:
        _fail(error)
        return
    click.echo(f"{count} figures into {out.with_suffix(f'.{kind}')}")


@main.command()
@click.argument("plan", type=click.Path(path_type=Path, exists=True))
@click.argument("logbook", type=LOGBOOK)
@click.option("--simulate", is_flag=True, required=True, help="Read the simulated lamps; there is no other meter yet.")
@click.option("--anew", is_flag=True, help="Begin a new session, also where one of this plan was broken off.")
def run(plan: Path, logbook: Path, simulate: bool, anew: bool) -> None:
    """Run a plan without a window, or go on with it; a line after each committed reading. SIGTERM ends it at a step."""
    import signal

    from even_beam.logbook import LogbookError
    from even_beam.workspace.logbook.files import open_or_create
    from even_beam.workspace.plan.simulated_run import SimulatedRun, read_plan
    from even_beam.workspace.plan.view import PlanError

    try:
        wanted = read_plan(plan)
        book = open_or_create(logbook)
        try:
            going = SimulatedRun(wanted, book, lambda: datetime.now(UTC), anew=anew)
            signal.signal(signal.SIGTERM, lambda number, frame: going.stop())
            for line in going.lines():
                click.echo(
                    line.encode(sys.stdout.encoding or "utf-8", "replace").decode(sys.stdout.encoding or "utf-8")
                )
                sys.stdout.flush()
        finally:
            book.close()
    except (PlanError, LogbookError) as error:
        _fail(error)


@main.command()
@click.argument("logbook", type=LOGBOOK)
@click.option("--fixture", help="One lamp, by its nickname.")
@click.option("--all", "everything", is_flag=True, help="Every sentence, not only the dozen that matter most.")
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def findings(logbook: Path, fixture: str | None, everything: bool, as_json: bool) -> None:
    """What the readings say, and which are in doubt."""
    from even_beam.bench.summary import gaps
    from even_beam.logbook import LogbookError
    from even_beam.logbook.store import Logbook
    from even_beam.workspace.findings import told
    from even_beam.workspace.findings.as_json import findings as collect
    from even_beam.workspace.findings.witness import UnknownFixtureError, Witness
    from even_beam.workspace.logbook.collection import Collection
    from even_beam.workspace.shell.settings import SettingsError, load

    try:
        collection, settings = Collection(Logbook.open_to_read(logbook)), load()
        if as_json:
            click.echo(json.dumps(collect(collection, fixture, settings), indent=1, allow_nan=False))
            return
        witness = Witness(collection, settings)
        entrants = witness.entrants([fixture] if fixture is not None else None)
    except (LogbookError, SettingsError, UnknownFixtureError) as error:
        _fail(error)
        return
    for entrant in entrants:
        count = len(entrant.readings)
        click.echo(f"{entrant.name}, {entrant.kind}: {count} reading{'s' * (count != 1)}")
        for one in (told.everything if everything else told.headline)(witness, entrant):
            click.echo(f"  {one.subject}: {one.sentence}")
    if missing := gaps(entrants, collection.sources):
        click.echo("not measured: " + "; ".join(missing if everything else missing[:4]))


@main.command()
@click.argument("logbook", type=LOGBOOK)
@click.argument("text", nargs=-1, required=True)
@click.option("--fixture", required=True, help="The lamp that was read, by its nickname.")
@click.option("--at", "terms", default="", help="Its terms, such as “cct=5600;level=100;distance=2 m”.")
@click.option("--meter", default="", help="The meter the figures come from; one that is not named when not given.")
@click.option("--keep", is_flag=True, help="Keep a figure in doubt on purpose, marked.")
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def enter(logbook: Path, text: Sequence[str], fixture: str, terms: str, meter: str, keep: bool, as_json: bool) -> None:
    """Keep figures as they are said, judged as at the Bench. What asks or is in doubt is not kept: exit code 3."""
    from even_beam.bench.entry import EntryError
    from even_beam.bench.limits import ImpossibleError
    from even_beam.logbook import LogbookError
    from even_beam.logbook.store import Logbook
    from even_beam.workspace.bench.enter import EnterError
    from even_beam.workspace.bench.enter import enter as entered
    from even_beam.workspace.shell.settings import SettingsError, load

    try:
        load()
        book = Logbook.open(logbook)
        try:
            found = entered(
                book, lambda: datetime.now(UTC), fixture=fixture, at=terms, meter=meter, text=text, keep=keep
            )
        finally:
            book.close()
    except (LogbookError, SettingsError, EnterError, EntryError, ImpossibleError) as error:
        _fail(error)
        return
    click.echo(json.dumps(found.as_json(), indent=1, allow_nan=False) if as_json else found.words)
    if not found.kept and (found.said.choices or found.said.entries):
        raise click.exceptions.Exit(3)


@main.command()
@click.argument("logbook", type=LOGBOOK)
@click.option(
    "--fixtures",
    required=True,
    help=(
        "Lamps by their nicknames, separated by commas; the first is the reference. “A@zoom=flood;configuration=bare”"
        " asks terms of one alone; a lamp may stand there twice."
    ),
)
@click.option(
    "--at",
    "terms",
    default="",
    help="Terms of all, such as “cct=5600;level=100;distance=2 m;zoom=flood”; what most lamps share when not given."
    " “session=joined” and “meter=joined” take the mean over all of them.",
)
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def compare(logbook: Path, fixtures: str, terms: str, as_json: bool) -> None:
    """Lamps on even terms: what is equal, what differs, and what may be said."""
    from even_beam.logbook import LogbookError
    from even_beam.logbook.store import Logbook
    from even_beam.workspace.compare.as_json import comparison
    from even_beam.workspace.findings.terms_text import TermsTextError
    from even_beam.workspace.findings.witness import UnknownFixtureError
    from even_beam.workspace.logbook.collection import Collection
    from even_beam.workspace.shell.settings import SettingsError, load

    names = _names(fixtures)
    if not names:
        raise click.UsageError("--fixtures needs at least one nickname")
    try:
        load()
        found = comparison(Collection(Logbook.open_to_read(logbook)), names, terms)
    except (LogbookError, UnknownFixtureError, TermsTextError, SettingsError) as error:
        _fail(error)
        return
    if as_json:
        click.echo(json.dumps(found, indent=1, allow_nan=False))
        return
    for note in found["terms"]:
        click.echo(f"{note['evenness']}: {note['text']}")
    for sentence in found["sentences"]:
        click.echo(sentence)
    for entry in found["entries"]:
        if entry["why_not"] and entry["fixture"] != found["reference"]:
            click.echo(f"not compared: {entry['fixture']}: {entry['why_not']}")


@main.command()
@click.argument("logbook", type=LOGBOOK)
@click.option(
    "--target",
    required=True,
    help=(
        "What all shall agree with: “cct=5600;duv=0.003”, “x=0.33;y=0.34”, “white=D55”, “fixture=NAME;cct=5600”,"
        " “look=NAME”, or “least” for the lamp that costs least to follow."
    ),
)
@click.option(
    "--fixtures", default="", help="Lamps by their nicknames, as in compare; all that were read if not given."
)
@click.option(
    "--gels", default="", help="all, none, or names such as “half CTB, eighth minus green”; the Kit's if not given."
)
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def match(logbook: Path, target: str, fixtures: str, gels: str, as_json: bool) -> None:
    """What to dial or clip on so that lamps agree."""
    from even_beam.logbook import LogbookError
    from even_beam.logbook.store import Logbook
    from even_beam.workspace.findings.terms_text import TermsTextError
    from even_beam.workspace.findings.witness import UnknownFixtureError
    from even_beam.workspace.logbook.collection import Collection
    from even_beam.workspace.match.as_json import match as matched
    from even_beam.workspace.match.stock import UnknownGelError
    from even_beam.workspace.match.target_text import TargetTextError
    from even_beam.workspace.shell.settings import SettingsError, load

    names = _names(fixtures)
    try:
        load()
        found = matched(Collection(Logbook.open_to_read(logbook)), target, names or None, gels)
    except (
        LogbookError,
        UnknownFixtureError,
        TermsTextError,
        TargetTextError,
        UnknownGelError,
        SettingsError,
    ) as error:
        _fail(error)
        return
    if as_json:
        click.echo(json.dumps(found, indent=1, allow_nan=False))
        return
    click.echo(found["headline"])
    for one in found["answers"]:
        click.echo(" ".join(filter(None, (one["sentence"], one["behind"]))))
    opposite = [one for one in found["clashes"] if one["opposite_tints"]]
    for line in (*(one["sentence"] for one in opposite[:MOST_TOLD]), *found["cautions"]):
        click.echo(line)
    if found["not_read"]:
        click.echo(f"no white was read of {', '.join(found['not_read'])}")


@main.command()
@click.argument("logbook", type=LOGBOOK)
@click.option(
    "--fixtures", required=True, help="Lamps on one subject, as in compare: “A@cct=3200,B@cct=5600;level=50”."
)
@click.option("--target", default="", help="A white as in match: then the levels that come nearest to it.")
@click.option("--lux", type=float, help="The illuminance wanted with it.")
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def mix(logbook: Path, fixtures: str, target: str, lux: float | None, as_json: bool) -> None:
    """Several lamps on one subject: what they give together, and the levels for a white."""
    from even_beam.logbook import LogbookError
    from even_beam.logbook.store import Logbook
    from even_beam.workspace.findings.named_lamps import named_lamps
    from even_beam.workspace.findings.terms_text import TermsTextError
    from even_beam.workspace.findings.witness import UnknownFixtureError, Witness
    from even_beam.workspace.logbook.collection import Collection
    from even_beam.workspace.match import together
    from even_beam.workspace.match.target_text import TargetTextError, target_of
    from even_beam.workspace.shell.settings import SettingsError, load

    try:
        load()
        collection = Collection(Logbook.open_to_read(logbook))
        entrants = named_lamps(collection, _names(fixtures))
        aim = target_of(target, collection, Witness(collection)) if target else None
        found = together.mix_json(together.mix(collection, entrants, aim, _positive(lux, "--lux")))
    except (
        LogbookError, UnknownFixtureError, TermsTextError, TargetTextError, together.NothingToMixError, SettingsError
    ) as error:  # fmt: skip
        _fail(error)
        return
    if as_json:
        click.echo(json.dumps(found, indent=1, allow_nan=False))
        return
    for sentence in found["sentences"]:
        click.echo(sentence)


@main.command()
@click.argument("logbook", type=LOGBOOK)
@click.option("--stop", "f_number", required=True, type=float, help="The f-number wanted, such as 4.")
@click.option("--iso", required=True, type=float)
@click.option("--shutter", required=True, help="1/50, 0.02 s, or an angle: “180° at 24 fps”.")
@click.option("--constant", default="dome", help="C of the meter's head: flat (250), dome (340), or a number.")
@click.option("--fixtures", default="", help="Lamps, as in compare; all that were read if not given.")
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def enough(
    logbook: Path, f_number: float, iso: float, shutter: str, constant: str, fixtures: str, as_json: bool
) -> None:
    """Is it light enough for a stop: the level, the distance or the number of lamps that gives it."""
    from even_beam.bench.exposure import HEADS, Exposure, ExposureError, shutter_of
    from even_beam.bench.planning.cautions import MAINS
    from even_beam.logbook import LogbookError
    from even_beam.logbook.store import Logbook
    from even_beam.workspace.findings.named_lamps import named_lamps
    from even_beam.workspace.findings.terms_text import TermsTextError
    from even_beam.workspace.findings.witness import UnknownFixtureError, Witness
    from even_beam.workspace.logbook.collection import Collection
    from even_beam.workspace.match import together
    from even_beam.workspace.shell.settings import SettingsError, load

    try:
        load()
        head = HEADS.get(constant.casefold())
        exposure = Exposure(iso, shutter_of(shutter), head if head is not None else float(constant))
        collection = Collection(Logbook.open_to_read(logbook))
        names = _names(fixtures)
        entrants = named_lamps(collection, names) if names else Witness(collection).entrants()
        answers, unread = together.enough_of(collection, entrants, f_number, exposure)
    except (LogbookError, UnknownFixtureError, TermsTextError, ExposureError, SettingsError, ValueError) as error:
        _fail(error)
        return
    if as_json:
        click.echo(json.dumps(together.enough_json(answers, unread, f_number, exposure), indent=1, allow_nan=False))
        return
    for one in answers:
        click.echo(one.sentence)
    if unread:
        click.echo(f"no level was read of {', '.join(unread)}")
    if any((one.lamps or 0) > 1 for one in answers):
        click.echo(MAINS)


def _names(text: str) -> list[str]:
    return [name.strip() for name in text.split(",") if name.strip()]


def _positive(value: float | None, name: str) -> float | None:
    if value is not None and not 0.0 < value < float("inf"):
        raise click.UsageError(f"{name} must be a number above zero")
    return value


@main.command()
@click.argument("logbook", type=LOGBOOK)
@click.option("--session", "name", help="The session's name; the newest when not given.")
@click.option("--out", required=True, type=click.Path(path_type=Path), help="A file ending in .html or .pdf.")
def report(logbook: Path, name: str | None, out: Path) -> None:
    """Write the one-page report of a session."""
    from even_beam.logbook import LogbookError
    from even_beam.logbook.store import Logbook
    from even_beam.reports.errors import ReportError
    from even_beam.workspace.logbook.collection import Collection
    from even_beam.workspace.report.content import write_report
    from even_beam.workspace.shell.settings import SettingsError, load

    try:
        collection = Collection(Logbook.open_to_read(logbook))
        sessions = [s for s in collection.sessions if name is None or s.name == name]
        if not sessions:
            _fail(f"there is no session “{name}”; there are: {', '.join(s.name for s in collection.sessions)}")
        write_report(collection, sessions[-1], load(), out)
    except (LogbookError, ReportError, SettingsError) as error:
        _fail(error)
    click.echo(f"wrote {out}")


@main.command()
@click.argument("folder", type=click.Path(path_type=Path))
def snapshot(folder: Path) -> None:
    """Draw every main view of the demo as a 1280x800 picture, without a screen."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from even_beam.app.snapshot import snapshot as draw

    draw(folder, click.echo)


@main.command()
@click.argument("logbook", type=LOGBOOK)
def check(logbook: Path) -> None:
    """Check a logbook thoroughly, without changing it."""
    from even_beam.logbook import LogbookError
    from even_beam.logbook.header import FileKind, inspect_header
    from even_beam.logbook.integrity import check as run_check

    try:
        if inspect_header(logbook) is FileKind.MISSING:
            _fail(f"there is no {logbook}")
        found = run_check(logbook)
    except LogbookError as error:
        _fail(error)
        return
    click.echo(f"{found.readings} readings, {found.spectra} spectra, {found.out_of_date} to be computed anew")
    for problem in found.problems:
        click.echo(f"even-beam: {problem}", err=True)
    sys.exit(0 if found.sound else 1)

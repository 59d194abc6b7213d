"""Commands that hand over: reports and tables."""

from dataclasses import replace
from pathlib import Path

import click

from even_beam.cli.group import LOGBOOK, fail, main, names_in

KINDS = ("lamp", "full", "head-to-head", "colours", "claims", "walk", "store", "room")


@main.command()
@click.argument("logbook", type=LOGBOOK)
@click.option("--kind", type=click.Choice(KINDS), help="What is handed over; what fits the readings when not given.")
@click.option("--session", "name", help="The session's name; the newest when neither this nor --fixtures is given.")
@click.option("--fixtures", default="", help="Lamps by their nicknames over all sessions, as in compare.")
@click.option("--without", default="", help="Sections to leave out by their keys, such as “readings,method”.")
@click.option("--with", "with_", default="", help="Sections to take in that were left out, such as “readings”.")
@click.option("--out", required=True, type=click.Path(path_type=Path), help="A file ending in .html or .pdf.")
def report(
    logbook: Path, kind: str | None, name: str | None, fixtures: str, without: str, with_: str, out: Path
) -> None:
    """Write a report of a session, or of lamps."""
    from even_beam.logbook import LogbookError
    from even_beam.logbook.store import Logbook
    from even_beam.reports.errors import ReportError
    from even_beam.workspace.findings.terms_text import TermsTextError
    from even_beam.workspace.findings.witness import UnknownFixtureError
    from even_beam.workspace.logbook.collection import Collection
    from even_beam.workspace.report.arrangement import kept_arrangement, usual_arrangement
    from even_beam.workspace.report.compose import sections_of, write_report
    from even_beam.workspace.report.kinds import Kind, usual_kind
    from even_beam.workspace.report.material import Material
    from even_beam.workspace.shell.settings import SettingsError, load

    if name is not None and fixtures:
        raise click.UsageError("--session or --fixtures, not both")
    if out.suffix.lower() not in {".html", ".pdf"}:
        raise click.UsageError(f"“{out.name}” ends neither in .html nor in .pdf")
    try:
        settings = load()
        collection = Collection(Logbook.open_to_read(logbook))
        sessions = [s for s in collection.sessions if name is None or s.name == name]
        if not sessions and not fixtures:
            fail(f"there is no session “{name or ''}”; there are: {', '.join(s.name for s in collection.sessions)}")
        material = Material(collection, settings, None if fixtures else sessions[-1], names_in(fixtures))
        wanted = Kind(kind) if kind is not None else usual_kind(material)
        if unknown := {*names_in(without), *names_in(with_)} - set(sections_of(wanted)):
            raise click.UsageError(f"no section {', '.join(unknown)}; there are {', '.join(sections_of(wanted))}")
        session = material.session
        kept = kept_arrangement(collection.logbook, session.id, wanted) if session else usual_arrangement(wanted)
        arranged = replace(kept, out=(kept.out | set(names_in(without))) - set(names_in(with_)))
        write_report(material, wanted, out, arranged)
    except (LogbookError, ReportError, SettingsError, UnknownFixtureError, TermsTextError) as error:
        fail(error)
    click.echo(f"wrote {out}: {wanted}")


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
    from even_beam.workspace.report.table import write_table

    try:
        count = write_table(Collection(Logbook.open_to_read(logbook)), out.with_suffix(f".{kind}"))
    except (FormatError, LogbookError) as error:
        fail(error)
        return
    click.echo(f"{count} figures into {out.with_suffix(f'.{kind}')}")

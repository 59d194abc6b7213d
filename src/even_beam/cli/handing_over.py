"""Commands that hand over: reports and tables."""

from pathlib import Path

import click

from even_beam.cli.group import LOGBOOK, fail, main


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
            fail(f"there is no session “{name}”; there are: {', '.join(s.name for s in collection.sessions)}")
        write_report(collection, sessions[-1], load(), out)
    except (LogbookError, ReportError, SettingsError) as error:
        fail(error)
    click.echo(f"wrote {out}")


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
        fail(error)
        return
    click.echo(f"{count} figures into {out.with_suffix(f'.{kind}')}")

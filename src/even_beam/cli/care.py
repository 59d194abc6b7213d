"""Commands that look after the program and its logbooks: pictures of its views, a thorough check."""

import os
import sys
from pathlib import Path

import click

from even_beam.cli.group import LOGBOOK, fail, main, names_in, say, warn
from even_beam.words import notation


@main.command()
@click.argument("folder", type=click.Path(path_type=Path))
@click.option("--only", default="", help="Some of them by their names, such as “kit,plan”.")
def snapshot(folder: Path, only: str) -> None:
    """Draw every main view of the demo as a 1280x800 picture, without a screen."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from even_beam.app.snapshot import snapshot as draw

    try:
        draw(folder, click.echo, frozenset(names_in(only)))
    except ValueError as error:
        raise click.UsageError(str(error)) from error


@main.command()
@click.argument("logbook", type=LOGBOOK)
def check(logbook: Path) -> None:
    """Check a logbook thoroughly, without changing it."""
    from even_beam.logbook.header import FileKind, inspect_header
    from even_beam.logbook.integrity import check as run_check

    if inspect_header(logbook) is FileKind.MISSING:
        fail(f"there is no {logbook}")
    found = run_check(logbook)
    older = f"; of format {found.older}, brought to the present one when it is next opened" if found.older else ""
    say(
        f"{notation.count(found.readings, 'reading')}, {found.spectra} spectra, {found.out_of_date} to be computed"
        f" anew{older}"
    )
    for problem in found.problems:
        warn(f"{problem}")
    sys.exit(0 if found.sound else 1)

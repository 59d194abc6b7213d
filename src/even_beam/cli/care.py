"""Commands that look after the program and its logbooks: pictures of its views, a thorough check."""

import os
import sys
from datetime import UTC, datetime
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


@main.command()
@click.argument("logbook", type=LOGBOOK)
@click.option("--now", is_flag=True, help="Make one of today.")
@click.option("--put-back", "day", default="", help="Take in what a copy has and the logbook has not: 2026-11-30.")
def backups(logbook: Path, now: bool, day: str) -> None:
    """The copies of a logbook, one of each day it was written in; one is taken in without losing what came after."""
    from even_beam.answers.sharing.merging import merge
    from even_beam.collection import backups as copies
    from even_beam.collection.files import PATIENCE_S, open_or_begin
    from even_beam.shell.settings import load

    settings = load()
    found = copies.backups_of(logbook)
    if day:
        chosen = next((one for one in found if one.day.isoformat() == day), None)
        if chosen is None:
            raise click.UsageError(f"there is no copy of {day} in {copies.folder_of(logbook)}")
        book = open_or_begin(logbook, PATIENCE_S)
        try:
            for merged in merge(book, [chosen.path], datetime.now(UTC), {}):
                for line in merged.lines():
                    say(line)
        finally:
            book.close()
        return
    if now:
        book = open_or_begin(logbook, PATIENCE_S)
        try:
            copies.back_up(book, datetime.now().astimezone().date(), settings.backups_mb * 1e6)
        finally:
            book.close()
        found = copies.backups_of(logbook)
    say(f"Copies of {notation.count(len(found), 'day')} in {copies.folder_of(logbook)}")
    for one in found:
        say(f"  {one.day.isoformat()}  {notation.number(one.size / 1e6, 1)} MB")

"""Commands for several benches: logbooks merged, and shared with a hub."""

import json
from collections.abc import Sequence
from datetime import UTC, datetime
from pathlib import Path

import click

from even_beam.cli.group import LOGBOOK, main, say


@main.command()
@click.argument("others", nargs=-1, required=True, type=click.Path(path_type=Path))
@click.argument("logbook", type=LOGBOOK)
@click.option("--same", "same", multiple=True, help="A lamp or meter there that is one here: “Name there=Name here”.")
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def merge(others: Sequence[Path], logbook: Path, same: Sequence[str], as_json: bool) -> None:
    """Take in what other logbooks have and this one has not; they are left as they are.

    A lamp or meter there that only has the name of one here is another one, under a name that says where it is from,
    unless --same says otherwise.
    """
    from even_beam.answers.sharing.merging import Merged, said_same
    from even_beam.answers.sharing.merging import merge as merged
    from even_beam.collection.files import PATIENCE_S, open_or_begin

    try:
        said = said_same(same)
    except ValueError as error:
        raise click.UsageError(str(error)) from error
    book = open_or_begin(logbook, PATIENCE_S)
    found = Merged()
    try:
        for one in merged(book, others, datetime.now(UTC), said):
            found.add(one)
    finally:
        begun_in_vain = book.is_new and not found.came
        book.close()
        if begun_in_vain:
            book.path.unlink()
    if as_json:
        say(json.dumps(found.as_json(), indent=1, ensure_ascii=False))
        return
    for line in found.lines():
        say(line)

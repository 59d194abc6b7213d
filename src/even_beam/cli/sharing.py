"""Commands for several benches: logbooks merged, and shared with a hub."""

import json
import sys
from collections.abc import Sequence
from datetime import UTC, datetime
from pathlib import Path

import click

from even_beam.cli.group import LOGBOOK, main, say, warn


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


@main.command()
@click.argument("logbook", type=LOGBOOK)
@click.argument("hub", required=False, default="")
@click.option("--keep-back", "kept", multiple=True, help="A lamp or session that is not shared, or: prices.")
@click.option("--give", "given", multiple=True, help="What was kept back is shared after all.")
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def share(logbook: Path, hub: str, kept: Sequence[str], given: Sequence[str], as_json: bool) -> None:
    """Share a logbook both ways with a hub: a folder, or postgresql://... Without one, with those it was shared with.

    Exit code 3 where a hub cannot be reached, or has not all yet: the same command goes on.
    """
    from even_beam.answers.sharing.keeping_back import keep_back
    from even_beam.answers.sharing.sharing import Shared
    from even_beam.answers.sharing.sharing import share as shared
    from even_beam.collection.files import PATIENCE_S, open_or_begin
    from even_beam.hubs import UnreachableError

    book = open_or_begin(logbook, PATIENCE_S)
    found: list[Shared] = []
    try:
        keep_back(book, kept, given)
        addresses = [hub] if hub else [one.address for one in book.hubs()]
        if not addresses and not (kept or given):
            raise click.UsageError("name the hub to share with: a folder, or postgresql://...")
        for address in addresses:
            try:
                found.append(shared(book, address, lambda: datetime.now(UTC), ask=_ask if sys.stdin.isatty() else None))
            except UnreachableError as error:
                found.append(Shared(address, left=[str(error)], was_reached=False))
                warn(f"{error} Nothing is lost: the same command goes on when it is there")
    finally:
        begun_in_vain = book.is_new and not any(one.came.came for one in found)
        book.close()
        if begun_in_vain:
            book.path.unlink()
    if as_json:
        told = [one.as_json() for one in found]
        say(json.dumps(told[0] if len(told) == 1 else told, indent=1, ensure_ascii=False))
    else:
        for one in found:
            for line in one.lines() if one.was_reached else ():
                say(line)
    if not all(one.is_whole for one in found):
        raise click.exceptions.Exit(3)


def _ask(server: str) -> str:
    """The password of a server, which is kept nowhere."""
    return str(click.prompt(f"Password of {server}", hide_input=True, err=True))


@main.command()
@click.argument("logbook", type=LOGBOOK)
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def meters(logbook: Path, as_json: bool) -> None:
    """Whether meters agree that have read the same lamps at the same terms, also those of benches that were merged."""
    from even_beam.answers.sharing.meters import MetersAgree
    from even_beam.logbook.store import Logbook

    book = Logbook.open_to_read(logbook)
    try:
        found = MetersAgree(book)
    finally:
        book.close()
    if as_json:
        say(json.dumps(found.as_json(), indent=1, ensure_ascii=False))
        return
    lines = list(found.lines())
    for line in lines or ["No two meters have read the same lamp at the same terms."]:
        say(line)

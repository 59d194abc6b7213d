"""Commands that hand over: reports and tables."""

from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

import click

from even_beam.cli.group import FORCE, LOGBOOK, ending_in, fail, main, names_in, print_json, say, warn
from even_beam.words import notation

if TYPE_CHECKING:
    from even_beam.bench.records import Session
    from even_beam.collection.collection import Collection
    from even_beam.handing_over.material import Material

KINDS = ("lamp", "full", "head-to-head", "colours", "claims", "walk", "store", "room")
SIZES = ("12mm", "18mm", "24mm", "62mm", "A4-3x8", "Letter-3x10")
GROUNDS = ("dark", "light", "transparent", "transparent-light")

FIXTURES = click.option(
    "--fixtures", default="", help="Lamps by their nicknames, as in compare; all that were read when not given."
)


def _material(logbook: Path, session: str | None, fixtures: str, *, newest: bool = False) -> "Material":
    """The lamps that are asked for. Raises what a logbook, a name or a setting that is not understood raises."""
    from even_beam.collection.collection import Collection
    from even_beam.handing_over.material import Material
    from even_beam.logbook.store import Logbook
    from even_beam.shell.settings import load

    settings = load()
    collection = Collection(Logbook.open_to_read(logbook))
    of = _session(collection, session)
    if newest and of is None and not fixtures:
        if not collection.sessions:
            fail("there is no session in it yet")
        of = collection.sessions[-1]
    return Material(collection, settings, of if not fixtures else None, names_in(fixtures))


def _session(collection: "Collection", name: str | None) -> "Session | None":
    """The newest session of a name; none where none is named."""
    named = [one for one in collection.sessions if one.name == name]
    if name is not None and not named:
        fail(f"there is no session “{name}”; there are: {', '.join(one.name for one in collection.sessions)}")
    return named[-1] if named else None


@main.command()
@click.argument("logbook", type=LOGBOOK)
@click.option("--kind", type=click.Choice(KINDS), help="What is handed over; what fits the readings when not given.")
@click.option(
    "--session", help="The session's name; if neither this nor --fixtures is given the newest, for a store list all."
)
@click.option("--fixtures", default="", help="Lamps by their nicknames over all sessions, as in compare.")
@click.option("--without", default="", help="Sections to leave out by their keys, such as “readings,method”.")
@click.option("--with", "with_", default="", help="Sections to take in that were left out, such as “readings”.")
@click.option("--out", required=True, type=click.Path(path_type=Path), help="A file ending in .html or .pdf.")
@FORCE
def report(
    logbook: Path,
    kind: str | None,
    session: str | None,
    fixtures: str,
    without: str,
    with_: str,
    out: Path,
    force: bool,
) -> None:
    """Write a report of a session, or of lamps."""
    from even_beam.handing_over.arrangement import kept_arrangement
    from even_beam.handing_over.compose import write_report
    from even_beam.handing_over.kinds import PLANS, Kind, usual_kind

    if session is not None and fixtures:
        raise click.UsageError("--session or --fixtures, not both")
    out = ending_in(out, ".html", ".pdf")
    material = _material(logbook, session, fixtures, newest=kind != "store")
    wanted = Kind(kind) if kind is not None else usual_kind(material)
    if unknown := {*names_in(without), *names_in(with_)} - set(PLANS[wanted].sections):
        raise click.UsageError(f"no section {', '.join(unknown)}; there are {', '.join(PLANS[wanted].sections)}")
    kept = kept_arrangement(material.collection.logbook, material.session, wanted)
    arranged = replace(kept, out=(kept.out | set(names_in(without))) - set(names_in(with_)))
    write_report(material, wanted, out, arranged, over_others=force)
    say(f"wrote {out}: {wanted}")


@main.command()
@click.argument("logbook", type=LOGBOOK)
@FIXTURES
@click.option("--size", "size_name", required=True, type=click.Choice(SIZES), help="A roll, or a sheet of labels.")
@click.option("--start", default=1, type=int, help="The first free place on the sheet, row by row from 1 on.")
@click.option("--out", required=True, type=click.Path(path_type=Path), help="A file ending in .pdf.")
@FORCE
def label(logbook: Path, fixtures: str, size_name: str, start: int, out: Path, force: bool) -> None:
    """Write labels for lamps, of exact size: white, what to dial, the true minimum, and a code with the same."""
    from even_beam.handing_over.labels import labels_of, left_off_words
    from even_beam.paper.label import SIZES as KNOWN
    from even_beam.paper.label_pages import write_labels

    size, out = KNOWN[size_name], ending_in(out, ".pdf")
    if not 1 <= start <= size.of_sheet:
        raise click.UsageError(f"--start: {size.words} has the places 1 to {size.of_sheet}")
    labels = labels_of(_material(logbook, None, fixtures), size)
    if not labels:
        fail("no lamp was read that a label could be made for")
    write_labels(labels, size, out, start, over_others=force)
    for line in left_off_words(labels):
        warn(line)
    say(f"wrote {out}: {len(labels)} label{'s' * (len(labels) != 1)}, {size.words}")


@main.command()
@click.argument("logbook", type=LOGBOOK)
@FIXTURES
@click.option("--session", help="Of one session alone.")
@click.option("--markdown", is_flag=True, help="As Markdown.")
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def sentences(logbook: Path, fixtures: str, session: str | None, markdown: bool, as_json: bool) -> None:
    """What may be said of lamps in a script or an article, and what must not."""
    from even_beam.handing_over import sentences as saying
    from even_beam.handing_over.before_published import before_published

    found = saying.statements(lambda: _material(logbook, session, fixtures))
    before = before_published(_material(logbook, session, fixtures)) if found else []
    if as_json:
        print_json(saying.as_json(found, before))
        return
    say(saying.as_text(found, before, markdown=markdown) or "Nothing was read that could be said.\n", nl=False)


@main.command()
@click.argument("logbook", type=LOGBOOK)
@FIXTURES
@click.option("--session", help="Of one session alone.")
@click.option("--chart", required=True, help="Such as levels, dimmer, miss, spectra, samples; “list” names them all.")
@click.option("--size", default="1920x1080", help="Pixels, such as 3840x2160.")
@click.option("--ground", type=click.Choice(GROUNDS), default="dark", help="What stands behind it.")
@click.option("--out", type=click.Path(path_type=Path), help="A file ending in .png or .svg.")
@FORCE
def pictures(
    logbook: Path, fixtures: str, session: str | None, chart: str, size: str, ground: str, out: Path | None, force: bool
) -> None:
    """Write a chart as a picture for a film or an article."""
    from even_beam.handing_over.pictures import charts_of, write_picture

    sides = size.lower().split("x")
    if len(sides) != 2 or not all(side.isdecimal() for side in sides):
        raise click.UsageError(f"--size: “{size}” is no size; write 1920x1080")
    material = _material(logbook, session, fixtures)
    if chart == "list":
        for name, one in charts_of(material).items():
            say(f"{name}: {one.title}")
        return
    if out is None:
        raise click.UsageError("--out needs a file ending in .png or .svg")
    out = ending_in(out, ".png", ".svg")
    try:
        write_picture(material, chart, int(sides[0]), int(sides[1]), ground, out, over_others=force)
    except ValueError as error:
        raise click.UsageError(str(error)) from error
    say(f"wrote {out}: {chart}, {size}")


@main.command()
@click.argument("logbook", type=LOGBOOK)
@click.option("--to", "kind", type=click.Choice(["csv", "xlsx", "json", "folder", "parquet"]), required=True)
@click.option("--session", help="Of one session alone.")
@FORCE
@click.argument("out", type=click.Path(path_type=Path))
def export(logbook: Path, kind: str, session: str | None, force: bool, out: Path) -> None:
    """Write all readings as a table, or everything as open data in a folder of its own."""
    from even_beam.collection.collection import Collection
    from even_beam.handing_over.folder import write_folder
    from even_beam.handing_over.table import write_table
    from even_beam.logbook.store import Logbook
    from even_beam.shell.settings import load

    settings, collection = load(), Collection(Logbook.open_to_read(logbook))
    found = _session(collection, session)
    if kind == "parquet":
        from even_beam.handing_over.parquet import write_parquet

        written = write_parquet(collection, out, found.id if found is not None else None)
        say(f"{notation.count(written, 'reading')} into {out}")
        return
    if kind == "folder":
        written = write_folder(collection, settings, found, out)
        say(f"{notation.count(written, 'reading')} into {out}")
        return
    target = ending_in(out, f".{kind}")
    written = write_table(collection, target, [found.id] if found is not None else None, over_others=force)
    say(f"{notation.count(written, 'figure')} into {target}")

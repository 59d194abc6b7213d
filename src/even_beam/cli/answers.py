"""Commands that answer: what the readings say, lamps compared, matched and mixed, light enough for a stop."""

from pathlib import Path

import click

from even_beam.cli.group import LOGBOOK, fail, main, names_in, print_json, say

EACH = ("lamp", "white", "level", "zoom", "tint", "mode", "modifier", "session", "meter")
"""What can stand side by side in compare."""

MOST_TOLD = 5
"""So many clashes are told in words; JSON has the two thousand that are farthest apart."""


@main.command()
@click.argument("logbook", type=LOGBOOK)
@click.option("--fixture", help="One lamp, by its nickname.")
@click.option("--all", "everything", is_flag=True, help="Every sentence, not only the dozen that matter most.")
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def findings(logbook: Path, fixture: str | None, everything: bool, as_json: bool) -> None:
    """What the readings say, and which are in doubt."""
    from even_beam.answers.findings import told
    from even_beam.answers.findings.as_json import findings_one_by_one
    from even_beam.answers.findings.witness import Witness
    from even_beam.collection.collection import Collection
    from even_beam.known.summary import gaps
    from even_beam.logbook.store import Logbook
    from even_beam.shell.settings import load

    collection, settings = Collection(Logbook.open_to_read(logbook)), load()
    if as_json:
        print_json(findings_one_by_one(collection, fixture, settings))
        return
    witness = Witness(collection, settings)
    entrants = witness.entrants([fixture] if fixture is not None else None)
    for entrant in entrants:
        count = len(entrant.readings)
        say(f"{entrant.name}, {entrant.kind}: {count} reading{'s' * (count != 1)}")
        if at := told.block_terms(witness, entrant):
            say(f"  unless a line says otherwise: {at}")
        for one in (told.everything if everything else told.headline)(witness, entrant):
            say(f"  {one.subject}: {one.in_block}")
        witness.forget(entrant)
    if missing := gaps(entrants, collection.sources):
        say("not measured: " + "; ".join(missing if everything else missing[:4]))


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
@click.option(
    "--each",
    type=click.Choice(EACH),
    default="lamp",
    help="What stands side by side: lamps, or of each lamp its whites, levels, zooms, modifiers, sessions ...",
)
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def compare(logbook: Path, fixtures: str, terms: str, each: str, as_json: bool) -> None:
    """Lamps on even terms: what is equal, what differs, and what may be said."""
    from even_beam.answers.compare.as_json import comparison
    from even_beam.collection.collection import Collection
    from even_beam.known.split import split_named
    from even_beam.logbook.store import Logbook
    from even_beam.shell.settings import load

    names = names_in(fixtures)
    if not names:
        raise click.UsageError("--fixtures needs at least one nickname")
    load()
    found = comparison(Collection(Logbook.open_to_read(logbook)), names, terms, split_named(each))
    if as_json:
        print_json(found)
        return
    if each != "lamp" and len(found["entries"]) == len(names):
        say(f"only one {each} was read of {', '.join(names)}: nothing stands beside it")
    for note in found["terms"]:
        say(f"{note['evenness']}: {note['text']}")
    for sentence in found["sentences"]:
        say(sentence)
    for entry in found["entries"]:
        if entry["why_not"] and entry["fixture"] != found["reference"]:
            say(f"not compared: {entry['fixture']}: {entry['why_not']}")


@main.command()
@click.argument("logbook", type=LOGBOOK)
@click.option(
    "--target",
    required=True,
    help=(
        "What all shall agree with: “cct=5600;duv=0.003”, “x=0.33;y=0.34”, “white=D55”, “fixture=NAME;cct=5600”,"
        " “kept=NAME”, or “least” for the lamp that costs least to follow."
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
    from even_beam.answers.match.as_json import match as matched
    from even_beam.collection.collection import Collection
    from even_beam.logbook.store import Logbook
    from even_beam.shell.settings import load

    names = names_in(fixtures)
    load()
    found = matched(Collection(Logbook.open_to_read(logbook)), target, names or None, gels)
    if as_json:
        print_json(found)
        return
    say(found["headline"])
    for one in found["answers"]:
        say(" ".join(filter(None, (one["sentence"], one["behind"]))))
    opposite = [one for one in found["clashes"] if one["opposite_tints"]]
    for line in (*(one["sentence"] for one in opposite[:MOST_TOLD]), *found["cautions"]):
        say(line)
    if found["not_read"]:
        say(f"no white was read of {', '.join(found['not_read'])}")


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
    from even_beam.answers.findings.named_lamps import named_lamps
    from even_beam.answers.findings.witness import Witness
    from even_beam.answers.match import together
    from even_beam.answers.match.target_text import target_of
    from even_beam.collection.collection import Collection
    from even_beam.logbook.store import Logbook
    from even_beam.shell.settings import load

    load()
    collection = Collection(Logbook.open_to_read(logbook))
    entrants = named_lamps(collection, names_in(fixtures))
    aim = target_of(target, collection, Witness(collection)) if target else None
    found = together.mix_json(together.mix(collection, entrants, aim, _positive(lux, "--lux")))
    if as_json:
        print_json(found)
        return
    for sentence in found["sentences"]:
        say(sentence)


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
    from even_beam.answers.findings.named_lamps import named_lamps
    from even_beam.answers.findings.witness import Witness
    from even_beam.answers.match import together
    from even_beam.bench.exposure import HEADS, Exposure, shutter_of
    from even_beam.bench.planning.cautions import MAINS
    from even_beam.collection.collection import Collection
    from even_beam.logbook.store import Logbook
    from even_beam.shell.settings import load

    load()
    head = HEADS.get(constant.casefold())
    exposure = Exposure(iso, shutter_of(shutter), head if head is not None else _number(constant, "--constant"))
    collection = Collection(Logbook.open_to_read(logbook))
    names = names_in(fixtures)
    entrants = named_lamps(collection, names) if names else Witness(collection).entrants()
    answers, unread = together.enough_of(collection, entrants, f_number, exposure)
    if as_json:
        print_json(together.enough_json(answers, unread, f_number, exposure))
        return
    for one in answers:
        say(one.sentence)
    if unread:
        say(f"no level was read of {', '.join(unread)}")
    if any((one.lamps or 0) > 1 for one in answers):
        say(MAINS)


def _number(text: str, name: str) -> float:
    try:
        return float(text)
    except ValueError:
        fail(f"{name}: “{text}” is no number")


def _positive(value: float | None, name: str) -> float | None:
    if value is not None and not 0.0 < value < float("inf"):
        raise click.UsageError(f"{name} must be a number above zero")
    return value

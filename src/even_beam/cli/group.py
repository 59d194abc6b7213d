"""The group of commands, the window as what is meant where none is named, and how a command fails."""

import json
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import NoReturn

import click

import even_beam
from even_beam.workspace.shell import memory

LOGBOOK = click.Path(path_type=Path)


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


def fail(message: object) -> NoReturn:
    """Say why on the error stream and end with 1."""
    click.echo(f"even-beam: {message}", err=True)
    sys.exit(1)


@contextmanager
def plainly() -> Iterator[None]:
    """What a person can mend (a file, a name, a setting) is said without a trace of the program, and ends with 1."""
    from even_beam.bench.exposure import ExposureError
    from even_beam.camera.errors import CameraError
    from even_beam.formats import FormatError
    from even_beam.logbook import LogbookError
    from even_beam.reports.errors import ReportError
    from even_beam.workspace.findings.terms_text import TermsTextError
    from even_beam.workspace.findings.witness import UnknownFixtureError
    from even_beam.workspace.match.stock import UnknownGelError
    from even_beam.workspace.match.target_text import TargetTextError
    from even_beam.workspace.match.together import NothingToMixError
    from even_beam.workspace.shell.settings import SettingsError

    try:
        yield
    except (
        CameraError, ExposureError, FormatError, LogbookError, NothingToMixError, ReportError, SettingsError,
        TargetTextError, TermsTextError, UnknownFixtureError, UnknownGelError,
    ) as error:  # fmt: skip
        fail(error)


def print_json(found: object) -> None:
    """An answer as JSON."""
    click.echo(json.dumps(found, indent=1, allow_nan=False))


def names_in(text: str) -> list[str]:
    """Nicknames separated by commas."""
    return [name.strip() for name in text.split(",") if name.strip()]


@main.command()
@click.argument("logbook", required=False, type=LOGBOOK)
@click.option("--demo", is_flag=True, help="Open the demo logbook; it is built at the first start.")
def window(logbook: Path | None, demo: bool) -> None:
    """Open the window."""
    from even_beam.app.start import display_problem, run

    if problem := display_problem():
        fail(f"{problem} The commands below `even-beam --help` work without one.")
    sys.exit(run(logbook, demo=demo))

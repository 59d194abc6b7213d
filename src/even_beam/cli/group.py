"""The group of commands, the window as what is meant where none is named, and how a command speaks and fails."""

import json
import re
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any, NoReturn

import click

import even_beam
from even_beam.errors import TellableError
from even_beam.logbook.notices import LISTENERS
from even_beam.shell import memory

LOGBOOK = click.Path(path_type=Path)

FORCE = click.option("--force", is_flag=True, help="Replace what stands there, also if it is of another kind.")


class _DefaultToWindow(click.Group):
    """`even-beam FILE` opens the window: what is no command is a logbook."""

    def parse_args(self, ctx: click.Context, args: list[str]) -> list[str]:
        """Put `window` before anything that is not a command."""
        options = {"--help", "--version"}
        if not args or (args[0] not in self.commands and args[0] not in options):
            args = ["window", *args]
        return super().parse_args(ctx, args)

    def invoke(self, ctx: click.Context) -> Any:
        """What a person can mend (a file, a name, a setting) is said without a trace of the program, and ends with 1;
        so is what nobody foresaw, with the place where the trace is."""
        try:
            return super().invoke(ctx)
        except (click.ClickException, click.exceptions.Exit, click.Abort, BrokenPipeError):
            raise
        except TellableError as error:
            fail(error)
        except OSError as error:
            fail(f"{error.filename or 'a file'}: {error.strerror or error}. Nothing else was changed.")
        except MemoryError:
            fail("there is not enough memory for this. Nothing was changed.")
        except Exception as error:
            _fail_unforeseen(error)


def _fail_unforeseen(error: Exception) -> NoReturn:
    from even_beam.shell.log import LOG, start_log

    file = start_log()
    LOG.error("unexpected error", exc_info=error)
    fail(f"something unexpected happened ({type(error).__name__}: {error}). The details are in {file or 'no log'}.")


@click.group(cls=_DefaultToWindow)
@click.version_option(even_beam.__version__, prog_name="even-beam")
def main() -> None:
    """Even Beam: a test bench for film lights.

    Without a command it opens the window: even-beam [LOGBOOK] | --demo
    """
    memory.look_seldom()
    _listen()


def _listen() -> None:
    """What is found of a logbook that a person must know goes to the error stream."""
    if _told not in LISTENERS:
        LISTENERS.append(_told)


def _told(path: Path, words: str, rescued: Path | None) -> None:
    if rescued is None:  # else it is what the command fails with
        warn(words)


_OBEYED = re.compile(
    "[\x00-\x08\x0b-\x1f\x7f-\x9f\xad\u0600-\u0605\u061c\u06dd\u070f\u0890\u0891\u08e2\u180e\u200b-\u200f\u202a-\u202e"
    "\u2060-\u2064\u2066-\u206f\ufeff\ufff9-\ufffb\U000110bd\U000110cd\U00013430-\U0001343f\U0001bca0-\U0001bca3"
    "\U0001d173-\U0001d17a\U000e0001\U000e0020-\U000e007f]"
)
"""Control characters, and those that turn the direction of what follows (Unicode categories Cc and Cf), but for the
ends of lines and tabs."""


def printable(text: object) -> str:
    """A text without what a terminal would obey: names and notes come from strangers too."""
    words = str(text).encode("utf-8", "replace").decode("utf-8")
    return _OBEYED.sub(lambda found: f"\\x{ord(found[0]):02x}", words)


def say(text: object, *, nl: bool = True) -> None:
    """Say something on the output."""
    click.echo(printable(text), nl=nl)


def warn(text: object) -> None:
    """Say something on the error stream."""
    click.echo(printable(f"even-beam: {text}"), err=True)


def fail(message: object) -> NoReturn:
    """Say why on the error stream and end with 1."""
    warn(message)
    sys.exit(1)


def ending_in(out: Path, *suffixes: str) -> Path:
    """A file to be written, with the first suffix where it has none. Raises `click.UsageError` for another one."""
    from even_beam.files.errors import OutputError
    from even_beam.files.writing import with_suffix

    try:
        return with_suffix(out, *suffixes)
    except OutputError as error:
        raise click.UsageError(str(error)) from error


def print_json(found: object) -> None:
    """An answer as JSON. Lists that come one by one are printed so, an element a line: of thousands of lamps none waits
    for the last, and none is held beside another."""
    if not isinstance(found, dict) or not any(isinstance(value, Iterator) for value in found.values()):
        say(json.dumps(found, indent=1, allow_nan=False))
        return
    say("{", nl=False)
    for place, (name, value) in enumerate(found.items()):
        say(f"{',' * (place > 0)}\n {json.dumps(name)}: ", nl=False)
        if not isinstance(value, Iterator):
            say(json.dumps(value, allow_nan=False), nl=False)
            continue
        say("[", nl=False)
        for number, element in enumerate(value):
            say(f"{',' * (number > 0)}\n  {json.dumps(element, allow_nan=False)}", nl=False)
        say("\n ]", nl=False)
    say("\n}")


def names_in(text: str) -> list[str]:
    """Nicknames separated by commas."""
    return [name.strip() for name in text.split(",") if name.strip()]


@main.command()
@click.argument("logbook", required=False, type=LOGBOOK)
@click.option("--demo", is_flag=True, help="Open the demo logbook; it is built at the first start.")
def window(logbook: Path | None, demo: bool) -> None:
    """Open the window."""
    LISTENERS.remove(_told)  # the window says it itself
    from even_beam.app.start import display_problem, run

    if problem := display_problem():
        fail(f"{problem} The commands below `even-beam --help` work without one.")
    sys.exit(run(logbook, demo=demo))

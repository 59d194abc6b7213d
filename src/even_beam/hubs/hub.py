"""What is asked of a hub, of whichever kind: what is new there, the records of that, and to keep some more."""

from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Protocol

from even_beam.errors import TellableError


class HubError(TellableError):
    """A hub cannot be used as it is; the message says why and what to do."""


class UnreachableError(HubError):
    """A hub does not answer: to try again later makes sense."""


@dataclass(frozen=True, slots=True)
class News:
    """The names of what is new at a hub, how far it has been read then (`taken`), whether it was put back to an
    earlier state, so that it lacks what it had, and whether it must not be written, for it is of a newer format."""

    names: Sequence[str]
    taken: str
    went_back: bool = False
    is_newer: bool = False


@dataclass(frozen=True, slots=True)
class Fetched:
    """Parts that were fetched, each with the names of what stands in it, and those that are not whole yet, in words.
    `strange` are names of what is none of ours: it is passed over from here on. `understood` is False where parts are
    of a newer format: they are to be fetched again some day."""

    parts: Sequence[tuple[Path, Sequence[str]]]
    left: Sequence[str] = ()
    strange: Sequence[str] = ()
    understood: bool = True


class Hub(Protocol):
    """A hub. All methods may take long and raise `HubError`."""

    def news(self, known: Collection[str], taken: str) -> News:
        """What is new to somebody who knows these names, and has read as far as `taken`."""
        ...

    def fetch(self, names: Sequence[str], folder: Path) -> Fetched:
        """The records of some names, as parts in a folder."""
        ...

    def add(self, part: Path) -> str:
        """Keep a part, whole or not at all; its name."""
        ...

    def close(self) -> None:
        """Let go of it."""
        ...


def is_server(address: str) -> bool:
    """Whether an address is that of a server, and no folder."""
    return address.startswith(("postgresql://", "postgres://"))


def kept_address(address: str) -> str:
    """An address as it is kept and shown: without a password, and whole."""
    if not is_server(address):
        return str(Path(address).absolute())
    from even_beam.hubs.postgres import without_password

    return without_password(address)


def hub_at(address: str, *, is_known: bool, ask: Callable[[str], str] | None = None) -> Hub:
    """The hub of an address: `postgresql://...`, or a folder; one that `is_known` is never begun anew. `ask` is asked
    for a password where one is wanted. Raises `HubError`."""
    if is_server(address):
        from even_beam.hubs.postgres import PostgresHub

        return PostgresHub(address, ask)
    from even_beam.hubs.folder import FolderHub

    return FolderHub(Path(address), is_known=is_known)

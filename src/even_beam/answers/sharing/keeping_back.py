"""What is not shared: lamps, sessions and prices, by what people call them."""

from collections.abc import Iterable

from even_beam.bench.records import Source
from even_beam.errors import TellableError
from even_beam.logbook.parts import ALL_COSTS
from even_beam.logbook.store import Logbook

PRICES = "prices"


class UnknownError(TellableError):
    """Something that shall be kept back is not there; the message says what."""


def keep_back(logbook: Logbook, kept: Iterable[str], given: Iterable[str]) -> None:
    """Keep lamps, sessions or prices back, and give others. Raises `UnknownError` before anything is done, and
    `LogbookError`."""
    backward = [one for name in kept for one in _meant(logbook, name)]
    forward = [one for name in given for one in _meant(logbook, name)]
    for what, record_id in backward:
        logbook.keep_back(what, record_id)
    for what, record_id in forward:
        logbook.give(what, record_id)


def _meant(logbook: Logbook, name: str) -> list[tuple[str, str]]:
    """What is called so, by table and identity: of a lamp all that are one with it."""
    if name.casefold() == PRICES:
        return [ALL_COSTS]
    lamp = next((one for one in logbook.all(Source) if one.nickname.casefold() == name.casefold()), None)
    if lamp is not None:
        return [("source", own) for own in logbook.identities_of(lamp.id)]
    sessions = [one for one in logbook.sessions() if one.name.casefold() == name.casefold()]
    if not sessions:
        raise UnknownError(f"there is no lamp and no session “{name}” in {logbook.path.name}")
    if len(sessions) > 1:
        raise UnknownError(f"{len(sessions)} sessions are called “{name}”: give them names of their own first")
    return [("session", sessions[0].id)]

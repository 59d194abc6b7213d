"""When the interpreter looks for what is no longer needed: seldom, and not at what stays."""

import gc

SELDOM = 50_000, 20, 20
"""A logbook is a hundred thousand small records that all stay; looking after every seven hundred new ones found nothing
and was an eighth of the time that findings take."""


def look_seldom() -> None:
    """From here on look only after many new objects."""
    gc.set_threshold(*SELDOM)


def settle(*, former: bool = True) -> None:
    """Drop what a former logbook left, where there was one, and look what stays through no more: a pass in mid-run held
    up a reading by 60 ms."""
    if former:
        gc.unfreeze()
        gc.collect()
    gc.freeze()

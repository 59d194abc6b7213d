"""What the line of the Kit says where two things are one, or two again."""

from even_beam.bench.records import Meter, Source
from even_beam.desk.kit.desk import KitDesk
from even_beam.desk.kit.joining import is_two_again, said_same_as


def joining_words(text: str, nickname: str) -> str:
    """What such a line would do; empty for one that says no such thing."""
    if name := said_same_as(text):
        return f"{name} is {nickname}: what was read of either is of one"
    return f"what was joined with {nickname} is a thing of its own again" if is_two_again(text) else ""


def joining_done(kit: KitDesk, one: Source | Meter, text: str) -> str:
    """Do what such a line says, and say so; empty for one that says no such thing. Raises `FormError`."""
    if name := said_same_as(text):
        other = kit.join(one, name)
        return f"{other} is {one.nickname} from here on. Ctrl Z makes them two again"
    if is_two_again(text):
        kit.part(one)
        return f"{one.nickname} is two again. Ctrl Z joins them"
    return ""

"""The shipped type family (SIL Open Font License, OFL.txt): made to be read on cockpit displays."""

from importlib.resources import files
from importlib.resources.abc import Traversable

FAMILY = "B612"
MONO_FAMILY = "B612 Mono"


def font_files() -> tuple[Traversable, ...]:
    """Every shipped font file."""
    return tuple(file for file in files(__name__).iterdir() if file.name.endswith(".otf"))


def font_data(name: str) -> bytes:
    """The content of one font file, such as `B612-Regular.otf`."""
    return files(__name__).joinpath(name).read_bytes()

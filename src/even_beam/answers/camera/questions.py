"""What is asked of a camera, in the order of its key."""

from enum import StrEnum


class Ask(StrEnum):
    """What is asked, in the order of its key."""

    CHARTS = "How far from the benchmark?"
    FLICKER = "Does a camera show flicker?"
    FADES = "Is the fade smooth?"
    SURFACES = "How even, how clean a cut?"

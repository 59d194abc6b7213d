"""What a logbook file says of itself, and its tables as statements (`schema.sql`)."""

from pathlib import Path

APPLICATION_ID = 0x4576426D
"""«EvBm», in the header of every logbook."""

SCHEMA_VERSION = 6
"""Kept as `user_version` in the header, so that a newer file is known before it is opened."""

REVISION = "0006"
"""The newest migration, which a new file is marked with."""

COMPUTED_SCALARS = (
    "illuminance", "cct", "duv", "x", "y", "u_prime", "v_prime", "peak_nm", "ra", "r9", "rf", "rg", "ssi", "tlci",
)  # fmt: skip
"""The computed figures that have a column of their own; a test holds them equal to what is computed."""


def statements() -> str:
    """The statements that make the tables of a new file."""
    return Path(__file__).with_name("schema.sql").read_text("utf-8")

"""What a logbook file says of itself, and its tables as statements (`schema.sql`, `migrations`)."""

from pathlib import Path

APPLICATION_ID = 0x4576426D
"""«EvBm», in the header of every logbook."""

SCHEMA_VERSION = 9
"""The format, kept as `user_version` in the header, so that a newer file is known before it is opened. The statements
that lead to it from the one before are `migrations/0009.sql`."""

OLDER_TABLES = frozenset(
    {
        "alembic_version", "calibration", "chain", "claim", "computed", "conditions", "cost", "event", "gear", "look",
        "mapping", "meter", "model", "modifier", "observation", "photo", "plan", "reading", "report_layout", "session",
        "source", "spectrum", "step", "subject", "tolerance_set", "trace", "value",
    }
)  # fmt: skip
"""What logbooks of earlier formats had."""

COMPUTED_SCALARS = (
    "illuminance", "cct", "duv", "x", "y", "u_prime", "v_prime", "peak_nm", "ra", "r9", "rf", "rg", "ssi", "tlci",
)  # fmt: skip
"""The computed figures that have a column of their own; a test holds them equal to what is computed."""

_HERE = Path(__file__).parent


def statements() -> str:
    """The statements that make the tables of a new file."""
    return (_HERE / "schema.sql").read_text("utf-8")


def statements_since(version: int) -> str:
    """The statements that bring a file of an earlier format to the present one."""
    steps = range(version + 1, SCHEMA_VERSION + 1)
    return "\n".join((_HERE / "migrations" / f"{step:04}.sql").read_text("utf-8") for step in steps)

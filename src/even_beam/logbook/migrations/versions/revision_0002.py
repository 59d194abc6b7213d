"""Traces, observations, photos and looks; limits and waits of steps; what the meter and the clock said at a reading."""

from pathlib import Path

from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    """Add the new tables from their frozen statements, and the new columns."""
    script = (Path(__file__).parent / "revision_0002.sql").read_text(encoding="utf-8")
    for statement in script.split(";\n"):
        if statement.strip():
            op.execute(statement)

"""The first schema, from its frozen statements."""

from pathlib import Path

from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:
    """Create every table as it was at the first release."""
    script = (Path(__file__).parent / "revision_0001.sql").read_text(encoding="utf-8")
    for statement in script.split(";\n"):
        if statement.strip():
            op.execute(statement)

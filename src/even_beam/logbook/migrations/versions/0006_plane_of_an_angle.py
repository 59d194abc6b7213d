"""The plane through the beam in which an angle off its axis is taken."""

from alembic import op

revision = "0006"
down_revision = "0005"


def upgrade() -> None:
    """Add the column; what was read before was read in the level plane, as far as anybody said."""
    for table in ("step", "reading", "observation"):
        op.execute(f"ALTER TABLE {table} ADD COLUMN turn_deg FLOAT DEFAULT '0' NOT NULL")

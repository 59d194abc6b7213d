"""Indices by which the readings of one lamp, and figures of an older method, are found among many; the day a lamp goes
back."""

from alembic import op

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    """Add the indices and the column."""
    op.execute("ALTER TABLE source ADD COLUMN return_by VARCHAR DEFAULT '' NOT NULL")
    op.execute("CREATE INDEX reading_of_sources ON reading (source_ids, session_id)")
    op.execute("CREATE INDEX event_naming_sources ON event (new) WHERE kind = 'source named'")
    op.execute("CREATE INDEX computed_of_method ON computed (method_version, reading_id)")

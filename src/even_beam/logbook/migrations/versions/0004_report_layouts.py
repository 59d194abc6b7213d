"""How the sections of a session's reports are arranged."""

from alembic import op

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    """Add the table, which new files of format 4 have already, though they are marked as of the revision before."""
    op.execute(
        "CREATE TABLE IF NOT EXISTS report_layout (id VARCHAR NOT NULL, session_id VARCHAR NOT NULL,"
        " kind VARCHAR DEFAULT '' NOT NULL, section_order VARCHAR NOT NULL, left_out VARCHAR NOT NULL,"
        " own VARCHAR NOT NULL, PRIMARY KEY (id), FOREIGN KEY(session_id) REFERENCES session (id))"
    )

"""How the sections of a session's reports are arranged."""

from alembic import op

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    """Add the table."""
    op.execute(
        "CREATE TABLE report_layout (id VARCHAR NOT NULL, session_id VARCHAR NOT NULL,"
        " kind VARCHAR DEFAULT '' NOT NULL, section_order VARCHAR NOT NULL, left_out VARCHAR NOT NULL,"
        " own VARCHAR NOT NULL, PRIMARY KEY (id), FOREIGN KEY(session_id) REFERENCES session (id))"
    )

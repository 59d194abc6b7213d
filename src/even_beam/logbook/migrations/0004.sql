-- How the sections of a session's reports are arranged. New files of format 3 were made with the table already.
CREATE TABLE IF NOT EXISTS report_layout (
    id VARCHAR NOT NULL,
    session_id VARCHAR NOT NULL,
    kind VARCHAR DEFAULT '' NOT NULL,
    section_order VARCHAR NOT NULL,
    left_out VARCHAR NOT NULL,
    own VARCHAR NOT NULL,
    PRIMARY KEY (id),
    FOREIGN KEY(session_id) REFERENCES session (id)
);

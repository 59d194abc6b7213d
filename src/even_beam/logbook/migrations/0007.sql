-- The mark of the newest change and that of the change before it, by which a log is known to be of its file; the format
-- is told by the header alone.
CREATE TABLE chain (here VARCHAR NOT NULL, before VARCHAR NOT NULL);
INSERT INTO chain VALUES ('', '');
DROP TABLE IF EXISTS alembic_version;

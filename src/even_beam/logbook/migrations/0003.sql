-- Indices by which the readings of one lamp, and figures of an older method, are found among many; the day a lamp goes
-- back.
ALTER TABLE source ADD COLUMN return_by VARCHAR DEFAULT '' NOT NULL;
CREATE INDEX reading_of_sources ON reading (source_ids, session_id);
CREATE INDEX event_naming_sources ON event (new) WHERE kind = 'source named';
CREATE INDEX computed_of_method ON computed (method_version, reading_id);

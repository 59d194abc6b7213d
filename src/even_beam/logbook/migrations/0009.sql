-- Sessions that grew on two benches have numbers twice, so these are no longer keys. What came in, what was changed
-- and which things are one is kept, so that logbooks can be merged and shared.
CREATE TABLE reading_ (
    id VARCHAR NOT NULL,
    session_id VARCHAR NOT NULL,
    at VARCHAR NOT NULL,
    sequence INTEGER NOT NULL,
    source_ids VARCHAR NOT NULL,
    step_id VARCHAR,
    meter_id VARCHAR,
    note VARCHAR DEFAULT '' NOT NULL,
    since_change_s FLOAT,
    meter_mode VARCHAR DEFAULT '' NOT NULL,
    meter_range VARCHAR DEFAULT '' NOT NULL,
    mode VARCHAR DEFAULT '' NOT NULL,
    cct_k FLOAT,
    tint VARCHAR DEFAULT '' NOT NULL,
    level_pct FLOAT,
    hue_deg FLOAT,
    saturation_pct FLOAT,
    zoom VARCHAR DEFAULT '' NOT NULL,
    configuration VARCHAR NOT NULL,
    distance_m FLOAT,
    placement VARCHAR DEFAULT '' NOT NULL,
    angle_deg FLOAT NOT NULL,
    reference_plane VARCHAR DEFAULT '' NOT NULL,
    turn_deg FLOAT DEFAULT '0' NOT NULL,
    PRIMARY KEY (id),
    FOREIGN KEY(session_id) REFERENCES session (id),
    FOREIGN KEY(step_id) REFERENCES step (id),
    FOREIGN KEY(meter_id) REFERENCES meter (id)
);
INSERT INTO reading_ (id, session_id, at, sequence, source_ids, step_id, meter_id, note, since_change_s, meter_mode, meter_range, mode, cct_k, tint, level_pct, hue_deg, saturation_pct, zoom, configuration, distance_m, placement, angle_deg, reference_plane, turn_deg) SELECT id, session_id, at, sequence, source_ids, step_id, meter_id, note, since_change_s, meter_mode, meter_range, mode, cct_k, tint, level_pct, hue_deg, saturation_pct, zoom, configuration, distance_m, placement, angle_deg, reference_plane, turn_deg FROM reading ORDER BY rowid;
DROP TABLE reading;
ALTER TABLE reading_ RENAME TO reading;
CREATE TABLE event_ (
    id VARCHAR NOT NULL,
    session_id VARCHAR NOT NULL,
    sequence INTEGER NOT NULL,
    at VARCHAR NOT NULL,
    kind VARCHAR NOT NULL,
    reading_id VARCHAR,
    step_id VARCHAR,
    field VARCHAR DEFAULT '' NOT NULL,
    old VARCHAR DEFAULT '' NOT NULL,
    new VARCHAR DEFAULT '' NOT NULL,
    reason VARCHAR DEFAULT '' NOT NULL,
    undoes VARCHAR,
    PRIMARY KEY (id),
    FOREIGN KEY(session_id) REFERENCES session (id),
    FOREIGN KEY(reading_id) REFERENCES reading (id),
    FOREIGN KEY(step_id) REFERENCES step (id),
    FOREIGN KEY(undoes) REFERENCES event (id)
);
INSERT INTO event_ (id, session_id, sequence, at, kind, reading_id, step_id, field, old, new, reason, undoes) SELECT id, session_id, sequence, at, kind, reading_id, step_id, field, old, new, reason, undoes FROM event ORDER BY rowid;
DROP TABLE event;
ALTER TABLE event_ RENAME TO event;
CREATE INDEX reading_sequence ON reading (session_id, sequence);
CREATE INDEX reading_of_sources ON reading (source_ids, session_id);
CREATE INDEX event_sequence ON event (session_id, sequence);
CREATE INDEX event_naming_sources ON event (new) WHERE kind = 'source named';
-- Every record that came in, in the order in which it did: what a hub has not yet is found by it. `hub_id` is the hub
-- that it came from.
CREATE TABLE arrival (
    number INTEGER NOT NULL,
    what VARCHAR NOT NULL,
    record_id VARCHAR NOT NULL,
    hub_id VARCHAR DEFAULT '' NOT NULL,
    PRIMARY KEY (number)
);

-- Every change of a field of a record that can change; `old` and `new` are cells as JSON. The latest stands in the
-- record. Without a field it is the record itself that was taken out ("new" is null) or put back.
CREATE TABLE change (
    id VARCHAR NOT NULL,
    at VARCHAR NOT NULL,
    what VARCHAR NOT NULL,
    record_id VARCHAR NOT NULL,
    field VARCHAR DEFAULT '' NOT NULL,
    old VARCHAR DEFAULT '' NOT NULL,
    new VARCHAR DEFAULT '' NOT NULL,
    PRIMARY KEY (id)
);

CREATE INDEX change_of_record ON change (what, record_id, field);

-- That two records are one thing, or (`undoes`) that what was said so is taken back.
CREATE TABLE same (
    id VARCHAR NOT NULL,
    at VARCHAR NOT NULL,
    what VARCHAR NOT NULL,
    one_id VARCHAR NOT NULL,
    other_id VARCHAR NOT NULL,
    undoes VARCHAR,
    PRIMARY KEY (id),
    FOREIGN KEY(undoes) REFERENCES same (id)
);

-- Where this file is shared: how far into `arrival` it has been sent, and what of the hub was taken in.
CREATE TABLE hub (
    id VARCHAR NOT NULL,
    address VARCHAR NOT NULL,
    sent INTEGER DEFAULT '0' NOT NULL,
    taken VARCHAR DEFAULT '' NOT NULL,
    shared_at VARCHAR DEFAULT '' NOT NULL,
    PRIMARY KEY (id),
    UNIQUE (address)
);

CREATE TABLE hub_part (hub_id VARCHAR NOT NULL, name VARCHAR NOT NULL, PRIMARY KEY (hub_id, name));

-- What is not shared.
CREATE TABLE kept_back (what VARCHAR NOT NULL, record_id VARCHAR NOT NULL, PRIMARY KEY (what, record_id));
INSERT INTO arrival (what, record_id) SELECT 'model', id FROM model ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'subject', id FROM subject ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'modifier', id FROM modifier ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'meter', id FROM meter ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'tolerance_set', id FROM tolerance_set ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'plan', id FROM plan ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'mapping', id FROM mapping ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'session', id FROM session ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'look', id FROM look ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'source', id FROM source ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'claim', id FROM claim ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'cost', id FROM cost ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'gear', id FROM gear ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'calibration', id FROM calibration ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'conditions', id FROM conditions ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'step', id FROM step ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'observation', id FROM observation ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'report_layout', id FROM report_layout ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'reading', id FROM reading ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'photo', id FROM photo ORDER BY rowid;
INSERT INTO arrival (what, record_id) SELECT 'event', id FROM event ORDER BY rowid;

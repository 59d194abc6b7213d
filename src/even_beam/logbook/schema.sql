-- The tables of a logbook (documented for other tools in docs/file-format.md). The statements in migrations bring an
-- older file to the same; a test holds both equal.

CREATE TABLE chain (here VARCHAR NOT NULL, before VARCHAR NOT NULL);

CREATE TABLE model (
    id VARCHAR NOT NULL,
    name VARCHAR DEFAULT '' NOT NULL,
    kind VARCHAR DEFAULT '' NOT NULL,
    notes VARCHAR DEFAULT '' NOT NULL,
    PRIMARY KEY (id)
);

CREATE TABLE subject (
    id VARCHAR NOT NULL,
    nickname VARCHAR NOT NULL,
    wavelength_nm VARCHAR NOT NULL,
    reflectance VARCHAR NOT NULL,
    notes VARCHAR DEFAULT '' NOT NULL,
    PRIMARY KEY (id),
    UNIQUE (nickname)
);

CREATE TABLE modifier (
    id VARCHAR NOT NULL,
    nickname VARCHAR NOT NULL,
    kind VARCHAR DEFAULT '' NOT NULL,
    notes VARCHAR DEFAULT '' NOT NULL,
    PRIMARY KEY (id),
    UNIQUE (nickname)
);

CREATE TABLE meter (
    id VARCHAR NOT NULL,
    nickname VARCHAR NOT NULL,
    kind VARCHAR DEFAULT '' NOT NULL,
    receptor VARCHAR DEFAULT '' NOT NULL,
    constant FLOAT NOT NULL,
    absolute BOOLEAN NOT NULL,
    level_tolerance FLOAT NOT NULL,
    ratio_tolerance FLOAT NOT NULL,
    xy_tolerance FLOAT NOT NULL,
    floor_lx FLOAT NOT NULL,
    dim_lx FLOAT NOT NULL,
    ceiling_lx FLOAT NOT NULL,
    zeroed_on VARCHAR DEFAULT '' NOT NULL,
    cc_sign VARCHAR DEFAULT '' NOT NULL,
    quantities VARCHAR NOT NULL,
    simulated VARCHAR DEFAULT '' NOT NULL,
    notes VARCHAR DEFAULT '' NOT NULL,
    PRIMARY KEY (id),
    UNIQUE (nickname)
);

CREATE TABLE tolerance_set (
    id VARCHAR NOT NULL,
    name VARCHAR NOT NULL,
    purpose VARCHAR DEFAULT '' NOT NULL,
    limits VARCHAR NOT NULL,
    PRIMARY KEY (id),
    UNIQUE (name)
);

CREATE TABLE plan (
    id VARCHAR NOT NULL,
    name VARCHAR NOT NULL,
    content VARCHAR NOT NULL,
    PRIMARY KEY (id)
);

CREATE TABLE mapping (
    id VARCHAR NOT NULL,
    shape VARCHAR NOT NULL,
    content VARCHAR NOT NULL,
    PRIMARY KEY (id),
    UNIQUE (shape)
);

CREATE TABLE session (
    id VARCHAR NOT NULL,
    name VARCHAR DEFAULT '' NOT NULL,
    created_at VARCHAR NOT NULL,
    zone VARCHAR DEFAULT '' NOT NULL,
    question VARCHAR DEFAULT '' NOT NULL,
    decision VARCHAR DEFAULT '' NOT NULL,
    disclosure VARCHAR DEFAULT '' NOT NULL,
    PRIMARY KEY (id)
);

CREATE TABLE look (
    id VARCHAR NOT NULL,
    name VARCHAR NOT NULL,
    at VARCHAR NOT NULL,
    cct_k FLOAT NOT NULL,
    duv FLOAT NOT NULL,
    reading_ids VARCHAR NOT NULL,
    note VARCHAR DEFAULT '' NOT NULL,
    PRIMARY KEY (id),
    UNIQUE (name)
);

CREATE TABLE source (
    id VARCHAR NOT NULL,
    nickname VARCHAR NOT NULL,
    model_id VARCHAR,
    kind VARCHAR DEFAULT '' NOT NULL,
    serial VARCHAR DEFAULT '' NOT NULL,
    supplied_by VARCHAR DEFAULT '' NOT NULL,
    simulated VARCHAR DEFAULT '' NOT NULL,
    notes VARCHAR DEFAULT '' NOT NULL,
    retired BOOLEAN NOT NULL,
    return_by VARCHAR DEFAULT '' NOT NULL,
    PRIMARY KEY (id),
    UNIQUE (nickname),
    FOREIGN KEY(model_id) REFERENCES model (id)
);

CREATE TABLE claim (
    id VARCHAR NOT NULL,
    model_id VARCHAR NOT NULL,
    quantity VARCHAR DEFAULT '' NOT NULL,
    low FLOAT,
    high FLOAT,
    unit VARCHAR DEFAULT '' NOT NULL,
    text VARCHAR DEFAULT '' NOT NULL,
    condition VARCHAR DEFAULT '' NOT NULL,
    PRIMARY KEY (id),
    FOREIGN KEY(model_id) REFERENCES model (id)
);

CREATE TABLE cost (
    id VARCHAR NOT NULL,
    model_id VARCHAR NOT NULL,
    what VARCHAR DEFAULT '' NOT NULL,
    amount FLOAT NOT NULL,
    currency VARCHAR DEFAULT '' NOT NULL,
    high FLOAT,
    units INTEGER DEFAULT '1' NOT NULL,
    optional BOOLEAN DEFAULT '0' NOT NULL,
    said VARCHAR DEFAULT '' NOT NULL,
    PRIMARY KEY (id),
    FOREIGN KEY(model_id) REFERENCES model (id)
);

CREATE TABLE gear (
    id VARCHAR NOT NULL,
    model_id VARCHAR NOT NULL,
    name VARCHAR DEFAULT '' NOT NULL,
    text VARCHAR DEFAULT '' NOT NULL,
    PRIMARY KEY (id),
    FOREIGN KEY(model_id) REFERENCES model (id)
);

CREATE TABLE calibration (
    id VARCHAR NOT NULL,
    meter_id VARCHAR NOT NULL,
    at VARCHAR NOT NULL,
    kind VARCHAR DEFAULT '' NOT NULL,
    note VARCHAR DEFAULT '' NOT NULL,
    PRIMARY KEY (id),
    FOREIGN KEY(meter_id) REFERENCES meter (id)
);

CREATE TABLE conditions (
    id VARCHAR NOT NULL,
    session_id VARCHAR NOT NULL,
    at VARCHAR NOT NULL,
    room VARCHAR DEFAULT '' NOT NULL,
    ambient_lx FLOAT,
    temperature_c FLOAT,
    mains_v FLOAT,
    note VARCHAR DEFAULT '' NOT NULL,
    PRIMARY KEY (id),
    FOREIGN KEY(session_id) REFERENCES session (id)
);

CREATE TABLE step (
    id VARCHAR NOT NULL,
    session_id VARCHAR NOT NULL,
    position FLOAT NOT NULL,
    source_ids VARCHAR NOT NULL,
    quantities VARCHAR NOT NULL,
    meter_id VARCHAR,
    repeats INTEGER NOT NULL,
    inserted BOOLEAN NOT NULL,
    spread_stops FLOAT,
    wait_s FLOAT DEFAULT '0' NOT NULL,
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
    FOREIGN KEY(meter_id) REFERENCES meter (id)
);

CREATE INDEX step_of_session ON step (session_id, position);

CREATE TABLE observation (
    id VARCHAR NOT NULL,
    session_id VARCHAR NOT NULL,
    at VARCHAR NOT NULL,
    source_ids VARCHAR NOT NULL,
    subject VARCHAR DEFAULT '' NOT NULL,
    finding VARCHAR DEFAULT '' NOT NULL,
    note VARCHAR DEFAULT '' NOT NULL,
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
    FOREIGN KEY(session_id) REFERENCES session (id)
);

CREATE TABLE report_layout (
    id VARCHAR NOT NULL,
    session_id VARCHAR NOT NULL,
    kind VARCHAR DEFAULT '' NOT NULL,
    section_order VARCHAR NOT NULL,
    left_out VARCHAR NOT NULL,
    own VARCHAR NOT NULL,
    PRIMARY KEY (id),
    FOREIGN KEY(session_id) REFERENCES session (id)
);

CREATE TABLE reading (
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

CREATE INDEX reading_sequence ON reading (session_id, sequence);

CREATE INDEX reading_of_sources ON reading (source_ids, session_id);

CREATE TABLE value (
    reading_id VARCHAR NOT NULL,
    quantity VARCHAR NOT NULL,
    origin VARCHAR NOT NULL,
    value FLOAT,
    low FLOAT,
    high FLOAT,
    text VARCHAR DEFAULT '' NOT NULL,
    unit VARCHAR DEFAULT '' NOT NULL,
    qualifier VARCHAR DEFAULT '' NOT NULL,
    PRIMARY KEY (reading_id, quantity, origin),
    FOREIGN KEY(reading_id) REFERENCES reading (id)
);

CREATE TABLE spectrum (
    reading_id VARCHAR NOT NULL,
    first_nm FLOAT NOT NULL,
    step_nm FLOAT,
    wavelengths BLOB,
    samples BLOB NOT NULL,
    absolute BOOLEAN NOT NULL,
    PRIMARY KEY (reading_id),
    FOREIGN KEY(reading_id) REFERENCES reading (id)
);

CREATE TABLE trace (
    reading_id VARCHAR NOT NULL,
    quantity VARCHAR NOT NULL,
    seconds BLOB NOT NULL,
    samples BLOB NOT NULL,
    PRIMARY KEY (reading_id, quantity),
    FOREIGN KEY(reading_id) REFERENCES reading (id)
);

CREATE TABLE photo (
    id VARCHAR NOT NULL,
    session_id VARCHAR NOT NULL,
    at VARCHAR NOT NULL,
    observation_id VARCHAR,
    reading_id VARCHAR,
    name VARCHAR DEFAULT '' NOT NULL,
    media_type VARCHAR DEFAULT '' NOT NULL,
    image BLOB NOT NULL,
    thumbnail BLOB NOT NULL,
    PRIMARY KEY (id),
    FOREIGN KEY(session_id) REFERENCES session (id),
    FOREIGN KEY(observation_id) REFERENCES observation (id),
    FOREIGN KEY(reading_id) REFERENCES reading (id)
);

CREATE TABLE computed (
    reading_id VARCHAR NOT NULL,
    method_version INTEGER NOT NULL,
    illuminance FLOAT,
    cct FLOAT,
    duv FLOAT,
    x FLOAT,
    y FLOAT,
    u_prime FLOAT,
    v_prime FLOAT,
    peak_nm FLOAT,
    ra FLOAT,
    r9 FLOAT,
    rf FLOAT,
    rg FLOAT,
    ssi FLOAT,
    tlci FLOAT,
    vectors VARCHAR NOT NULL,
    PRIMARY KEY (reading_id),
    FOREIGN KEY(reading_id) REFERENCES reading (id)
);

CREATE INDEX computed_of_method ON computed (method_version, reading_id);

CREATE TABLE event (
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

CREATE TABLE trace (
	reading_id VARCHAR NOT NULL,
	quantity VARCHAR NOT NULL,
	seconds BLOB NOT NULL,
	samples BLOB NOT NULL,
	PRIMARY KEY (reading_id, quantity),
	FOREIGN KEY(reading_id) REFERENCES reading (id)
);

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
	PRIMARY KEY (id),
	FOREIGN KEY(session_id) REFERENCES session (id)
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

ALTER TABLE meter ADD COLUMN zeroed_on VARCHAR DEFAULT '' NOT NULL;

ALTER TABLE step ADD COLUMN spread_stops FLOAT;

ALTER TABLE step ADD COLUMN wait_s FLOAT DEFAULT '0' NOT NULL;

ALTER TABLE reading ADD COLUMN since_change_s FLOAT;

ALTER TABLE reading ADD COLUMN meter_mode VARCHAR DEFAULT '' NOT NULL;

ALTER TABLE reading ADD COLUMN meter_range VARCHAR DEFAULT '' NOT NULL;

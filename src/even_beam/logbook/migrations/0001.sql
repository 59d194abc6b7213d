CREATE TABLE mapping (
	id VARCHAR NOT NULL, 
	shape VARCHAR NOT NULL, 
	content VARCHAR NOT NULL, 
	PRIMARY KEY (id), 
	UNIQUE (shape)
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
	cc_sign VARCHAR DEFAULT '' NOT NULL, 
	quantities VARCHAR NOT NULL, 
	simulated VARCHAR DEFAULT '' NOT NULL, 
	notes VARCHAR DEFAULT '' NOT NULL, 
	PRIMARY KEY (id), 
	UNIQUE (nickname)
);

CREATE TABLE model (
	id VARCHAR NOT NULL, 
	name VARCHAR DEFAULT '' NOT NULL, 
	kind VARCHAR DEFAULT '' NOT NULL, 
	notes VARCHAR DEFAULT '' NOT NULL, 
	PRIMARY KEY (id)
);

CREATE TABLE modifier (
	id VARCHAR NOT NULL, 
	nickname VARCHAR NOT NULL, 
	kind VARCHAR DEFAULT '' NOT NULL, 
	notes VARCHAR DEFAULT '' NOT NULL, 
	PRIMARY KEY (id), 
	UNIQUE (nickname)
);

CREATE TABLE "plan" (
	id VARCHAR NOT NULL, 
	name VARCHAR NOT NULL, 
	content VARCHAR NOT NULL, 
	PRIMARY KEY (id)
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

CREATE TABLE tolerance_set (
	id VARCHAR NOT NULL, 
	name VARCHAR NOT NULL, 
	purpose VARCHAR DEFAULT '' NOT NULL, 
	limits VARCHAR NOT NULL, 
	PRIMARY KEY (id), 
	UNIQUE (name)
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

CREATE TABLE cost (
	id VARCHAR NOT NULL, 
	model_id VARCHAR NOT NULL, 
	what VARCHAR DEFAULT '' NOT NULL, 
	amount FLOAT NOT NULL, 
	currency VARCHAR DEFAULT '' NOT NULL, 
	PRIMARY KEY (id), 
	FOREIGN KEY(model_id) REFERENCES model (id)
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
	PRIMARY KEY (id), 
	UNIQUE (nickname), 
	FOREIGN KEY(model_id) REFERENCES model (id)
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
	FOREIGN KEY(session_id) REFERENCES session (id), 
	FOREIGN KEY(meter_id) REFERENCES meter (id)
);

CREATE INDEX step_of_session ON step (session_id, position);

CREATE TABLE reading (
	id VARCHAR NOT NULL, 
	session_id VARCHAR NOT NULL, 
	at VARCHAR NOT NULL, 
	sequence INTEGER NOT NULL, 
	source_ids VARCHAR NOT NULL, 
	step_id VARCHAR, 
	meter_id VARCHAR, 
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
	CONSTRAINT reading_sequence UNIQUE (session_id, sequence), 
	FOREIGN KEY(session_id) REFERENCES session (id), 
	FOREIGN KEY(step_id) REFERENCES step (id), 
	FOREIGN KEY(meter_id) REFERENCES meter (id)
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
	CONSTRAINT event_sequence UNIQUE (session_id, sequence), 
	FOREIGN KEY(session_id) REFERENCES session (id), 
	FOREIGN KEY(reading_id) REFERENCES reading (id), 
	FOREIGN KEY(step_id) REFERENCES step (id), 
	FOREIGN KEY(undoes) REFERENCES event (id)
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

-- What a model is to work with, and subjects by their reflectance.
CREATE TABLE gear (
    id VARCHAR NOT NULL,
    model_id VARCHAR NOT NULL,
    name VARCHAR DEFAULT '' NOT NULL,
    text VARCHAR DEFAULT '' NOT NULL,
    PRIMARY KEY (id),
    FOREIGN KEY(model_id) REFERENCES model (id)
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

-- The plane through the beam in which an angle off its axis is taken: the level one, as far as anybody said.
ALTER TABLE step ADD COLUMN turn_deg FLOAT DEFAULT '0' NOT NULL;
ALTER TABLE reading ADD COLUMN turn_deg FLOAT DEFAULT '0' NOT NULL;
ALTER TABLE observation ADD COLUMN turn_deg FLOAT DEFAULT '0' NOT NULL;

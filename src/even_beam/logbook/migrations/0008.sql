-- A price may be a range, of several in a kit, of something that is not needed, and was told somewhere at some time.
ALTER TABLE cost ADD COLUMN high FLOAT;
ALTER TABLE cost ADD COLUMN units INTEGER DEFAULT '1' NOT NULL;
ALTER TABLE cost ADD COLUMN optional BOOLEAN DEFAULT '0' NOT NULL;
ALTER TABLE cost ADD COLUMN said VARCHAR DEFAULT '' NOT NULL;

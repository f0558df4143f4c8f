-- What somebody said they saw though the device knew that it could not be: kept as said, and counted for nothing.
ALTER TABLE sightings ADD COLUMN doubted INTEGER NOT NULL DEFAULT 0;

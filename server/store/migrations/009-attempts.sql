-- How often a parcel was begun to be unpacked; counted before the work, and set back when it came to an end.
ALTER TABLE parcels ADD COLUMN attempts INTEGER NOT NULL DEFAULT 0;

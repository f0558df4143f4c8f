-- When something in the history was taken back: its entry goes on saying so.
ALTER TABLE history ADD COLUMN undone_at TEXT;
-- What lists count of a parcel's entries, without reading each of them.
CREATE INDEX parcel_entries_kinds ON parcel_entries(parcel_id, kind, sha256, problem);

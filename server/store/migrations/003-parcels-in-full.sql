-- Parcels in full: texts of papers, archives cleared and parcels removed with a way back, a watched folder, families joined
-- by a person, pins, and records that can be made anew when Buvano learns to read more.

ALTER TABLE faces ADD COLUMN record_version INTEGER NOT NULL DEFAULT 1;
CREATE INDEX faces_version ON faces(record_version);

-- The text of a paper by the digest of its file; `problem` says why there is none.
CREATE TABLE paper_texts (
  sha256 TEXT PRIMARY KEY,
  text TEXT NOT NULL,
  cut INTEGER NOT NULL,
  problem TEXT
) WITHOUT ROWID;

-- Set while the archive, or the whole parcel, waits to be deleted; until then it can be had back.
ALTER TABLE parcels ADD COLUMN cleared_at TEXT;
ALTER TABLE parcels ADD COLUMN removed_at TEXT;

-- Files of the watched folder that were looked at, so that each is taken once.
CREATE TABLE watched_files (
  path TEXT PRIMARY KEY,
  bytes INTEGER NOT NULL,
  modified_ms INTEGER NOT NULL,
  outcome TEXT NOT NULL,
  seen_at TEXT NOT NULL
) WITHOUT ROWID;

-- Another spelling that a person said means this family.
CREATE TABLE family_spellings (
  key TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  family_id INTEGER NOT NULL REFERENCES families(id) ON DELETE CASCADE
) WITHOUT ROWID;

ALTER TABLE families ADD COLUMN pinned INTEGER NOT NULL DEFAULT 0;
CREATE INDEX styles_parcel ON styles(parcel_id);

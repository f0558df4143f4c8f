-- Matching: what is measured of each face's letters and manner, and pictures that were matched.

-- `measured` is null until it is; a face that took its thread along too often stays so.
CREATE TABLE face_shapes (
  id INTEGER PRIMARY KEY,
  sha256 TEXT NOT NULL,
  face INTEGER NOT NULL,
  version INTEGER NOT NULL,
  attempts INTEGER NOT NULL DEFAULT 0,
  measured INTEGER,
  weight REAL, width REAL, contrast REAL, slant REAL, roundness REAL, serif REAL, joined REAL, small_height REAL,
  UNIQUE (sha256, face)
);
CREATE INDEX face_shapes_version ON face_shapes(version, measured);
-- The measured letters of a face, a row a script.
CREATE TABLE face_letters (
  shape_id INTEGER NOT NULL REFERENCES face_shapes(id) ON DELETE CASCADE,
  script TEXT NOT NULL,
  letters BLOB NOT NULL,
  PRIMARY KEY (shape_id, script)
) WITHOUT ROWID;

CREATE TABLE matches (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  sha256 TEXT NOT NULL,
  type TEXT NOT NULL,
  width INTEGER NOT NULL,
  height INTEGER NOT NULL,
  -- Frames that were found, the one that was drawn with all that was said of it, and the answer; JSON.
  lines TEXT NOT NULL,
  asked TEXT,
  answer TEXT,
  job_id INTEGER REFERENCES jobs(id) ON DELETE SET NULL,
  at TEXT NOT NULL,
  removed_at TEXT
);

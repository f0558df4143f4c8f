-- Faces by each name a document may ask for them: letters and figures alone, in small letters.
CREATE TABLE face_names (
  plain TEXT NOT NULL,
  sha256 TEXT NOT NULL,
  face INTEGER NOT NULL,
  PRIMARY KEY (plain, sha256, face)
) WITHOUT ROWID;

-- Documents somebody asked about: what each needs, as it was read; where those fonts are is looked up whenever it is shown.
CREATE TABLE documents (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  sha256 TEXT NOT NULL,
  kind TEXT NOT NULL,
  made_by TEXT NOT NULL,
  -- Pages that were not looked at.
  unread INTEGER NOT NULL,
  needs TEXT NOT NULL,
  -- Faces whose outlines were held against those it carries: "same" or "other" by "sha256#face".
  compared TEXT NOT NULL,
  at TEXT NOT NULL,
  removed_at TEXT
);

-- The widths of a face's telling letters: faces with the same stand in for one another.
ALTER TABLE faces ADD COLUMN metrics TEXT NOT NULL DEFAULT '';
CREATE INDEX faces_metrics ON faces(metrics) WHERE metrics <> '';

-- The bench: kept sheets, each with its steps, and what was decided on them; facts of a face's glyphs and characters.

CREATE TABLE bench_sheets (
  id INTEGER PRIMARY KEY,
  -- The step that stands; later ones were taken back and can be had again.
  at_step INTEGER NOT NULL,
  job_id INTEGER REFERENCES jobs(id) ON DELETE SET NULL,
  changed_at TEXT NOT NULL,
  removed_at TEXT
);
CREATE TABLE bench_steps (
  sheet_id INTEGER NOT NULL REFERENCES bench_sheets(id) ON DELETE CASCADE,
  step INTEGER NOT NULL,
  body TEXT NOT NULL,
  PRIMARY KEY (sheet_id, step)
) WITHOUT ROWID;

-- Which style was chosen for a job on a sheet, and which were considered. A style by its bytes, with its names, so that it outlives the library.
CREATE TABLE job_choices (
  id INTEGER PRIMARY KEY,
  job_id INTEGER NOT NULL REFERENCES jobs(id) ON DELETE CASCADE,
  sheet_id INTEGER NOT NULL REFERENCES bench_sheets(id) ON DELETE CASCADE,
  line_id TEXT NOT NULL,
  sha256 TEXT NOT NULL,
  face INTEGER NOT NULL,
  family TEXT NOT NULL,
  style TEXT NOT NULL,
  chosen INTEGER NOT NULL,
  at TEXT NOT NULL,
  UNIQUE (sheet_id, line_id, sha256, face)
);
CREATE INDEX job_choices_job ON job_choices(job_id);

-- Features and glyphs of a face as read from its bytes; `glyphs` is JSON packed by gzip.
CREATE TABLE glyph_facts (
  sha256 TEXT NOT NULL,
  face INTEGER NOT NULL,
  version INTEGER NOT NULL,
  attempts INTEGER NOT NULL DEFAULT 0,
  features TEXT,
  glyphs BLOB,
  PRIMARY KEY (sha256, face)
) WITHOUT ROWID;

-- The characters of a face: pairs of first and last code point, 32 bits each, little-endian. Filled where a face is read, or once after this migration.
CREATE TABLE face_ranges (
  sha256 TEXT NOT NULL,
  face INTEGER NOT NULL,
  ranges BLOB NOT NULL,
  PRIMARY KEY (sha256, face)
) WITHOUT ROWID;

-- What fonts themselves call their private signs, to be found by word in all styles at once.
CREATE VIRTUAL TABLE sign_words USING fts5(
  words, sha256 UNINDEXED, face UNINDEXED, code UNINDEXED,
  prefix = '2 3', tokenize = 'unicode61 remove_diacritics 2'
);

-- Clearance: what a person says of a family's licence, licences that were bought or whose term is watched, and jobs.

CREATE TABLE corrections (
  id INTEGER PRIMARY KEY,
  family_id INTEGER NOT NULL REFERENCES families(id) ON DELETE CASCADE,
  use TEXT NOT NULL,
  -- NULL takes earlier corrections of this use back.
  answer TEXT,
  note TEXT NOT NULL,
  at TEXT NOT NULL
);
CREATE INDEX corrections_family ON corrections(family_id);

CREATE TABLE licences (
  id INTEGER PRIMARY KEY,
  family_id INTEGER NOT NULL REFERENCES families(id) ON DELETE CASCADE,
  kind TEXT NOT NULL,
  answers TEXT NOT NULL,
  seats INTEGER,
  bought_on TEXT,
  -- In the currency's smallest unit.
  price_minor INTEGER,
  currency TEXT NOT NULL,
  order_number TEXT NOT NULL,
  note TEXT NOT NULL,
  receipt_sha256 TEXT,
  receipt_name TEXT,
  term_until TEXT,
  term_days INTEGER,
  -- The day a style was first placed under it.
  placed_on TEXT,
  made_at TEXT NOT NULL,
  removed_at TEXT
);
CREATE INDEX licences_family ON licences(family_id);

CREATE TABLE jobs (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  uses TEXT NOT NULL,
  languages TEXT NOT NULL,
  words TEXT NOT NULL,
  device_ids TEXT NOT NULL,
  made_at TEXT NOT NULL,
  removed_at TEXT
);
CREATE TABLE job_families (
  job_id INTEGER NOT NULL REFERENCES jobs(id) ON DELETE CASCADE,
  family_id INTEGER NOT NULL REFERENCES families(id) ON DELETE CASCADE,
  PRIMARY KEY (job_id, family_id)
) WITHOUT ROWID;
CREATE INDEX job_families_family ON job_families(family_id);

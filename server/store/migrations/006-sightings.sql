-- Sightings by eye beside those from files, with who looked; programs people name themselves.
CREATE TABLE sightings_anew (
  id INTEGER PRIMARY KEY,
  style_id INTEGER NOT NULL REFERENCES styles(id) ON DELETE CASCADE,
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  result TEXT NOT NULL CHECK (result IN ('seen', 'swapped', 'not-there')),
  means TEXT NOT NULL DEFAULT 'file' CHECK (means IN ('file', 'eye')),
  who TEXT NOT NULL DEFAULT '',
  instead TEXT NOT NULL,
  sentence TEXT NOT NULL,
  file_name TEXT NOT NULL,
  file_sha256 TEXT NOT NULL,
  fonts TEXT NOT NULL,
  at TEXT NOT NULL
);
INSERT INTO sightings_anew (id, style_id, program_id, result, instead, sentence, file_name, file_sha256, fonts, at)
  SELECT id, style_id, program_id, result, instead, sentence, file_name, file_sha256, fonts, at FROM sightings;
DROP TABLE sightings;
ALTER TABLE sightings_anew RENAME TO sightings;
CREATE INDEX sightings_cell ON sightings(style_id, program_id, id);

-- Set for programs a person named; those of the practice room are written anew at every start.
ALTER TABLE programs ADD COLUMN own INTEGER NOT NULL DEFAULT 0;
ALTER TABLE programs ADD COLUMN removed_at TEXT;
-- When somebody last said that it was updated: what was seen before has to be looked for anew.
ALTER TABLE programs ADD COLUMN updated_at TEXT;

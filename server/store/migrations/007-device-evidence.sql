-- What a device found out for itself is evidence too.
CREATE TABLE sightings_anew (
  id INTEGER PRIMARY KEY,
  style_id INTEGER NOT NULL REFERENCES styles(id) ON DELETE CASCADE,
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  result TEXT NOT NULL CHECK (result IN ('seen', 'swapped', 'not-there')),
  means TEXT NOT NULL DEFAULT 'file' CHECK (means IN ('file', 'eye', 'device')),
  who TEXT NOT NULL DEFAULT '',
  instead TEXT NOT NULL,
  sentence TEXT NOT NULL,
  file_name TEXT NOT NULL,
  file_sha256 TEXT NOT NULL,
  fonts TEXT NOT NULL,
  at TEXT NOT NULL
);
INSERT INTO sightings_anew SELECT id, style_id, program_id, result, means, who, instead, sentence, file_name, file_sha256, fonts, at FROM sightings;
DROP TABLE sightings;
ALTER TABLE sightings_anew RENAME TO sightings;
CREATE INDEX sightings_cell ON sightings(style_id, program_id, id);

-- Since when a device has given the same answer; `at` is when it gave it last.
ALTER TABLE device_answers ADD COLUMN since TEXT NOT NULL DEFAULT '';
UPDATE device_answers SET since = at;

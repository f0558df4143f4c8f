-- Evidence that asks for a style without showing it, and a style that was faked; what tells it, and where; taken back instead of removed.
DROP TRIGGER programs_opened;
CREATE TABLE sightings_anew (
  id INTEGER PRIMARY KEY,
  style_id INTEGER NOT NULL REFERENCES styles(id) ON DELETE CASCADE,
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  result TEXT NOT NULL CHECK (result IN ('seen', 'swapped', 'faked', 'asked-for', 'not-there')),
  means TEXT NOT NULL DEFAULT 'file' CHECK (means IN ('file', 'eye', 'device')),
  who TEXT NOT NULL DEFAULT '',
  instead TEXT NOT NULL,
  sentence TEXT NOT NULL,
  file_name TEXT NOT NULL,
  file_sha256 TEXT NOT NULL,
  fonts TEXT NOT NULL,
  at TEXT NOT NULL,
  made_by TEXT NOT NULL DEFAULT '',
  letters INTEGER NOT NULL DEFAULT 0,
  pages TEXT NOT NULL DEFAULT '[]',
  taken_back_at TEXT
);
INSERT INTO sightings_anew (id, style_id, program_id, result, means, who, instead, sentence, file_name, file_sha256, fonts, at)
  SELECT id, style_id, program_id, result, means, who, instead, sentence, file_name, file_sha256, fonts, at FROM sightings;
DROP TABLE sightings;
ALTER TABLE sightings_anew RENAME TO sightings;
CREATE INDEX sightings_cell ON sightings(style_id, program_id, id);
CREATE INDEX sightings_program ON sightings(program_id, id);
CREATE INDEX sightings_file ON sightings(file_sha256);

-- What is renewed when a sighting comes, goes, or is taken back; the first two went with the table.
CREATE TRIGGER sightings_added AFTER INSERT ON sightings BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT family_id, 4 FROM styles WHERE id = NEW.style_id
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
END;
CREATE TRIGGER sightings_gone AFTER DELETE ON sightings BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT family_id, 4 FROM styles WHERE id = OLD.style_id
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
END;
CREATE TRIGGER sightings_taken_back AFTER UPDATE OF taken_back_at ON sightings WHEN OLD.taken_back_at IS NOT NEW.taken_back_at BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT family_id, 4 FROM styles WHERE id = NEW.style_id
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
END;
CREATE TRIGGER programs_opened AFTER UPDATE OF opened_at, updated_at ON programs BEGIN
  INSERT INTO stale_families (family_id, parts)
    SELECT DISTINCT s.family_id, 4 FROM observed_fonts o JOIN styles s ON s.sha256 = o.sha256 WHERE o.device_id = NEW.device_id
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
  INSERT INTO stale_families (family_id, parts)
    SELECT DISTINCT s.family_id, 4 FROM sightings g JOIN styles s ON s.id = g.style_id WHERE g.program_id = NEW.id
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
END;

-- Evidence files that are kept, each once, by the sum of their bytes.
CREATE TABLE evidence_files (
  sha256 TEXT PRIMARY KEY,
  bytes INTEGER NOT NULL,
  at TEXT NOT NULL
);

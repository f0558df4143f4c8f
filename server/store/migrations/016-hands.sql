-- Removing from the library and having it back; tags; finding by any word.

-- A style that was removed keeps its row and its file until it cannot be brought back any more: what was seen of it stands again with it.
ALTER TABLE styles RENAME TO shelved_styles;
ALTER TABLE shelved_styles ADD COLUMN removed_at TEXT;
CREATE INDEX shelved_styles_removed ON shelved_styles(removed_at) WHERE removed_at IS NOT NULL;
CREATE VIEW styles AS
  SELECT id, family_id, sha256, face, parcel_id, file_name, shelved_at FROM shelved_styles WHERE removed_at IS NULL;
CREATE TRIGGER styles_removed AFTER UPDATE OF removed_at ON shelved_styles WHEN OLD.removed_at IS NOT NEW.removed_at BEGIN
  INSERT INTO stale_families (family_id, parts) VALUES (NEW.family_id, 7) ON CONFLICT (family_id) DO UPDATE SET parts = 7, seq = seq + 1;
  DELETE FROM style_cells WHERE NEW.removed_at IS NOT NULL AND family_id = NEW.family_id AND style_id = NEW.id;
  INSERT INTO stale_parcels (parcel_id) SELECT DISTINCT parcel_id FROM parcel_entries WHERE sha256 = NEW.sha256
    ON CONFLICT (parcel_id) DO UPDATE SET seq = seq + 1;
  INSERT INTO stale_names (name_key) SELECT DISTINCT family_key FROM faces WHERE sha256 = NEW.sha256
    ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1;
END;

-- Tags of a person's own. `key` is the name as two spellings of it are compared.
CREATE TABLE tags (
  id INTEGER PRIMARY KEY,
  key TEXT NOT NULL UNIQUE,
  name TEXT NOT NULL
);
CREATE TABLE family_tags (
  tag_id INTEGER NOT NULL REFERENCES tags(id) ON DELETE CASCADE,
  family_id INTEGER NOT NULL REFERENCES families(id) ON DELETE CASCADE,
  PRIMARY KEY (tag_id, family_id)
) WITHOUT ROWID;
CREATE INDEX family_tags_family ON family_tags(family_id);

-- The words a family is found by, one row each (rowid: the family), without marks on letters. Any three letters in a row are indexed.
CREATE VIRTUAL TABLE family_search USING fts5(name, styles, makers, scripts, parcels, licence, tags, tokenize = 'trigram');
CREATE TRIGGER family_tagged AFTER INSERT ON family_tags BEGIN
  UPDATE family_search SET tags = (SELECT group_concat(t.key, ' ') FROM family_tags f JOIN tags t ON t.id = f.tag_id WHERE f.family_id = NEW.family_id)
    WHERE rowid = NEW.family_id;
END;
CREATE TRIGGER family_untagged AFTER DELETE ON family_tags BEGIN
  UPDATE family_search SET tags = coalesce((SELECT group_concat(t.key, ' ') FROM family_tags f JOIN tags t ON t.id = f.tag_id WHERE f.family_id = OLD.family_id), '')
    WHERE rowid = OLD.family_id;
END;
-- A licence's words come with it.
INSERT INTO stale_families (family_id, parts) SELECT id, 7 FROM families WHERE true ON CONFLICT (family_id) DO UPDATE SET parts = 7, seq = seq + 1;

-- Other spellings are among the words a family is found by.
CREATE TRIGGER spellings_found AFTER INSERT ON family_spellings BEGIN
  INSERT INTO stale_families (family_id, parts) VALUES (NEW.family_id, 1) ON CONFLICT (family_id) DO UPDATE SET parts = parts | 1, seq = seq + 1;
END;
CREATE TRIGGER spellings_moved AFTER UPDATE ON family_spellings BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT id, 1 FROM families WHERE id IN (OLD.family_id, NEW.family_id)
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 1, seq = seq + 1;
END;
CREATE TRIGGER spellings_lost AFTER DELETE ON family_spellings BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT id, 1 FROM families WHERE id = OLD.family_id
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 1, seq = seq + 1;
END;
CREATE TRIGGER family_lost AFTER DELETE ON families BEGIN
  DELETE FROM family_search WHERE rowid = OLD.id;
END;

-- How many of its styles were seen in a program, of those it should list.
ALTER TABLE family_cells ADD COLUMN seen INTEGER NOT NULL DEFAULT 0;
ALTER TABLE family_cells ADD COLUMN listed INTEGER NOT NULL DEFAULT 0;

-- What happened on a device is found there, with its way back.
ALTER TABLE history ADD COLUMN device_id INTEGER;
CREATE INDEX history_device ON history(device_id, id) WHERE device_id IS NOT NULL;
UPDATE history SET device_id = (SELECT p.device_id FROM plans p WHERE p.id = json_extract(history.undo, '$.id'))
  WHERE undo LIKE '{"kind":"plan"%';

-- Practice devices are there when they were asked for; a library that has them has asked.
INSERT OR IGNORE INTO settings (key, value)
  SELECT 'practice', 'true' WHERE EXISTS (SELECT 1 FROM devices WHERE sort = 'practice' AND removed_at IS NULL);

-- What a family is for in a job: "headline", "Hebrew text".
ALTER TABLE job_families ADD COLUMN role TEXT NOT NULL DEFAULT '';

-- Names a person found styles under in a program, where they are other than was predicted.
CREATE TABLE learnt_names (
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  sha256 TEXT NOT NULL,
  face INTEGER NOT NULL,
  name TEXT NOT NULL,
  PRIMARY KEY (program_id, sha256, face)
) WITHOUT ROWID;
-- Which file lay there before another was put in its place.
ALTER TABLE surprises ADD COLUMN was TEXT NOT NULL DEFAULT '';

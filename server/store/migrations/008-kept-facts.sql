-- Facts are kept where they are computed once: what a face is for lists, what a text says of licences. Views are what screens list,
-- one row each. Whatever changes a row of the library marks, in the same transaction, which views are stale; they are renewed right
-- after, and a mark goes only with the row it led to. A kill in between leaves the mark.

-- Filled by the program when a face is read, or once after this migration.
ALTER TABLE faces ADD COLUMN family_key TEXT NOT NULL DEFAULT '';
ALTER TABLE faces ADD COLUMN style_key TEXT NOT NULL DEFAULT '';
ALTER TABLE faces ADD COLUMN stated_key TEXT NOT NULL DEFAULT '';
ALTER TABLE faces ADD COLUMN brief TEXT NOT NULL DEFAULT '';
ALTER TABLE faces ADD COLUMN claim TEXT NOT NULL DEFAULT '';
ALTER TABLE faces ADD COLUMN revision REAL NOT NULL DEFAULT 0;
ALTER TABLE faces ADD COLUMN brief_version INTEGER NOT NULL DEFAULT 0;
CREATE INDEX faces_claim ON faces(family_key, style_key);
CREATE INDEX faces_stated ON faces(stated_key);
CREATE INDEX faces_brief ON faces(brief_version);

-- What texts say: papers by the sum of their file, fonts' own fields by the sum of what they state. `reading` is null until it was read;
-- one made by an older reader goes on being shown while a new one is made. `attempts` are counted before the work.
CREATE TABLE readings (
  id INTEGER PRIMARY KEY,
  key TEXT NOT NULL UNIQUE,
  kind TEXT NOT NULL CHECK (kind IN ('paper', 'font')),
  -- A paper's path in the parcel it was met in first; a font's stated fields.
  source TEXT NOT NULL,
  is_long INTEGER NOT NULL DEFAULT 0,
  version INTEGER NOT NULL DEFAULT 0,
  attempts INTEGER NOT NULL DEFAULT 0,
  reading TEXT
);
CREATE INDEX readings_version ON readings(version, is_long);

-- Views.
CREATE TABLE family_views (
  family_id INTEGER PRIMARY KEY REFERENCES families(id) ON DELETE CASCADE,
  name_key TEXT NOT NULL,
  name TEXT NOT NULL,
  pinned INTEGER NOT NULL,
  stuck_at TEXT,
  -- Sets, as bits in the order of their names in core.
  scripts INTEGER NOT NULL,
  kinds INTEGER NOT NULL,
  cleared INTEGER NOT NULL,
  styles INTEGER NOT NULL,
  main_style INTEGER NOT NULL,
  specimen TEXT NOT NULL,
  trail TEXT NOT NULL,
  clearance TEXT NOT NULL,
  -- 1 when its licence has ended, 2 when it ends soon.
  ending INTEGER NOT NULL,
  being_read INTEGER NOT NULL,
  -- The name in letters and digits alone, without style words at its end, and its first and last four letters: names that seem to mean
  -- the same family share one of these.
  bare TEXT NOT NULL,
  plain TEXT NOT NULL,
  head TEXT NOT NULL,
  tail TEXT NOT NULL
);
-- Lists and filters are answered from this alone.
CREATE INDEX family_views_list ON family_views(name_key, family_id, stuck_at, pinned, scripts, kinds, cleared, styles);
CREATE INDEX family_views_stuck ON family_views(stuck_at, name_key);
CREATE INDEX family_views_ending ON family_views(ending) WHERE ending > 0;
CREATE INDEX family_views_bare ON family_views(bare);
CREATE INDEX family_views_plain ON family_views(plain);
CREATE INDEX family_views_head ON family_views(head);
CREATE INDEX family_views_tail ON family_views(tail);

-- The characters of each family's main style: thirty-two code points a row, as bits.
CREATE TABLE family_coverage (
  block INTEGER NOT NULL,
  family_id INTEGER NOT NULL REFERENCES families(id) ON DELETE CASCADE,
  bits INTEGER NOT NULL,
  PRIMARY KEY (block, family_id)
) WITHOUT ROWID;
CREATE INDEX family_coverage_family ON family_coverage(family_id);

-- Where styles and families stand in programs; what has no row is "not here".
CREATE TABLE style_cells (
  family_id INTEGER NOT NULL REFERENCES families(id) ON DELETE CASCADE,
  style_id INTEGER NOT NULL,
  program_id INTEGER NOT NULL,
  state TEXT NOT NULL,
  PRIMARY KEY (family_id, style_id, program_id)
) WITHOUT ROWID;
CREATE INDEX style_cells_state ON style_cells(program_id, state, style_id);
CREATE TABLE family_cells (
  family_id INTEGER NOT NULL REFERENCES families(id) ON DELETE CASCADE,
  program_id INTEGER NOT NULL,
  state TEXT NOT NULL,
  -- The style that is as far.
  style_id INTEGER NOT NULL,
  PRIMARY KEY (family_id, program_id)
) WITHOUT ROWID;
CREATE INDEX family_cells_state ON family_cells(program_id, state, family_id);

CREATE TABLE parcel_views (
  parcel_id INTEGER PRIMARY KEY REFERENCES parcels(id) ON DELETE CASCADE,
  -- It waits for somebody: it is not unpacked, or holds what can be shelved or unwrapped.
  waits INTEGER NOT NULL,
  summary TEXT NOT NULL
);

-- Fonts on devices, one row a face, with what is to be said of each.
CREATE TABLE device_views (
  device_id INTEGER NOT NULL REFERENCES devices(id) ON DELETE CASCADE,
  folder TEXT NOT NULL,
  file_name TEXT NOT NULL,
  face INTEGER NOT NULL,
  -- The family its face claims, as it is found and sorted; empty for a file nobody can read.
  name_key TEXT NOT NULL,
  family TEXT NOT NULL,
  style TEXT NOT NULL,
  family_id INTEGER,
  style_id INTEGER,
  -- Placed, or came with the device.
  placed INTEGER NOT NULL,
  -- What is the matter with its file: 1 another copy is in the way, 2 off, 4 not taken up, 8 the library has a newer one, 16 lapsed.
  trouble INTEGER NOT NULL,
  newer TEXT NOT NULL,
  -- With a remark first.
  rank INTEGER NOT NULL,
  PRIMARY KEY (device_id, folder, file_name, face)
) WITHOUT ROWID;
CREATE INDEX device_views_list ON device_views(device_id, placed, rank, name_key, style);
CREATE INDEX device_views_counts ON device_views(device_id, placed, face, trouble);
CREATE INDEX device_views_name ON device_views(name_key);
-- Names that more than one file of a device claims, and whether more than one of them is on.
CREATE TABLE device_duplicates (
  device_id INTEGER NOT NULL REFERENCES devices(id) ON DELETE CASCADE,
  claim TEXT NOT NULL,
  name_key TEXT NOT NULL,
  in_the_way INTEGER NOT NULL,
  PRIMARY KEY (device_id, claim)
) WITHOUT ROWID;
CREATE INDEX device_duplicates_name ON device_duplicates(name_key);

-- Marks. `seq` tells a mark set again while its row was being renewed. Parts of a family: 1 shelf, 2 clearance, 4 cells.
CREATE TABLE stale_families (family_id INTEGER PRIMARY KEY, parts INTEGER NOT NULL, seq INTEGER NOT NULL DEFAULT 0);
CREATE TABLE stale_parcels (parcel_id INTEGER PRIMARY KEY, seq INTEGER NOT NULL DEFAULT 0);
-- Families by the name their faces claim, whose rows on devices, and rivals in programs, are to be looked at.
CREATE TABLE stale_names (name_key TEXT PRIMARY KEY, seq INTEGER NOT NULL DEFAULT 0) WITHOUT ROWID;

CREATE TRIGGER families_added AFTER INSERT ON families BEGIN
  INSERT INTO stale_families (family_id, parts) VALUES (NEW.id, 7) ON CONFLICT (family_id) DO UPDATE SET parts = 7, seq = seq + 1;
END;
CREATE TRIGGER families_pinned AFTER UPDATE OF pinned ON families BEGIN
  UPDATE family_views SET pinned = NEW.pinned WHERE family_id = NEW.id;
END;
CREATE TRIGGER families_named AFTER UPDATE OF key, name ON families BEGIN
  INSERT INTO stale_families (family_id, parts) VALUES (NEW.id, 7) ON CONFLICT (family_id) DO UPDATE SET parts = 7, seq = seq + 1;
END;
CREATE TRIGGER families_gone AFTER DELETE ON families BEGIN
  DELETE FROM stale_families WHERE family_id = OLD.id;
END;

CREATE TRIGGER styles_added AFTER INSERT ON styles BEGIN
  INSERT INTO stale_families (family_id, parts) VALUES (NEW.family_id, 7) ON CONFLICT (family_id) DO UPDATE SET parts = 7, seq = seq + 1;
  INSERT INTO stale_parcels (parcel_id) SELECT DISTINCT parcel_id FROM parcel_entries WHERE sha256 = NEW.sha256
    ON CONFLICT (parcel_id) DO UPDATE SET seq = seq + 1;
  INSERT INTO stale_names (name_key) SELECT DISTINCT family_key FROM faces WHERE sha256 = NEW.sha256
    ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1;
END;
CREATE TRIGGER styles_gone AFTER DELETE ON styles BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT id, 7 FROM families WHERE id = OLD.family_id
    ON CONFLICT (family_id) DO UPDATE SET parts = 7, seq = seq + 1;
  DELETE FROM style_cells WHERE family_id = OLD.family_id AND style_id = OLD.id;
  INSERT INTO stale_parcels (parcel_id) SELECT DISTINCT parcel_id FROM parcel_entries WHERE sha256 = OLD.sha256
    ON CONFLICT (parcel_id) DO UPDATE SET seq = seq + 1;
  INSERT INTO stale_names (name_key) SELECT DISTINCT family_key FROM faces WHERE sha256 = OLD.sha256
    ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1;
END;
CREATE TRIGGER styles_moved AFTER UPDATE OF family_id, parcel_id ON styles BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT id, 7 FROM families WHERE id IN (OLD.family_id, NEW.family_id)
    ON CONFLICT (family_id) DO UPDATE SET parts = 7, seq = seq + 1;
  DELETE FROM style_cells WHERE family_id = OLD.family_id AND style_id = OLD.id AND OLD.family_id <> NEW.family_id;
  INSERT INTO stale_names (name_key) SELECT DISTINCT family_key FROM faces WHERE sha256 = NEW.sha256
    ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1;
END;
CREATE TRIGGER spellings_added AFTER INSERT ON family_spellings BEGIN
  INSERT INTO stale_names (name_key) VALUES (NEW.key) ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1;
END;
CREATE TRIGGER spellings_gone AFTER DELETE ON family_spellings BEGIN
  INSERT INTO stale_names (name_key) VALUES (OLD.key) ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1;
END;

-- New facts of a face concern whoever shows it.
CREATE TRIGGER faces_added AFTER INSERT ON faces BEGIN
  INSERT INTO stale_names (name_key) SELECT NEW.family_key WHERE EXISTS (SELECT 1 FROM observed_fonts WHERE sha256 = NEW.sha256)
    ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1;
END;
CREATE TRIGGER faces_renewed AFTER UPDATE OF record, brief, claim, verdict ON faces BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT DISTINCT family_id, 7 FROM styles WHERE sha256 = NEW.sha256
    ON CONFLICT (family_id) DO UPDATE SET parts = 7, seq = seq + 1;
  INSERT INTO stale_parcels (parcel_id) SELECT DISTINCT parcel_id FROM parcel_entries WHERE sha256 = NEW.sha256
    ON CONFLICT (parcel_id) DO UPDATE SET seq = seq + 1;
  INSERT INTO stale_names (name_key) SELECT DISTINCT k FROM (SELECT OLD.family_key AS k UNION SELECT NEW.family_key)
    WHERE EXISTS (SELECT 1 FROM observed_fonts WHERE sha256 = NEW.sha256)
    ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1;
END;

CREATE TRIGGER observed_added AFTER INSERT ON observed_fonts BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT DISTINCT family_id, 4 FROM styles WHERE sha256 = NEW.sha256
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
  INSERT INTO stale_names (name_key) SELECT DISTINCT family_key FROM faces WHERE sha256 = NEW.sha256
    ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1;
  -- A file nobody can read goes by no name.
  INSERT INTO stale_names (name_key) SELECT '' WHERE NOT EXISTS (SELECT 1 FROM faces WHERE sha256 = NEW.sha256)
    ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1;
END;
CREATE TRIGGER observed_changed AFTER UPDATE ON observed_fonts BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT DISTINCT family_id, 4 FROM styles WHERE sha256 IN (OLD.sha256, NEW.sha256)
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
  INSERT INTO stale_names (name_key) SELECT DISTINCT family_key FROM faces WHERE sha256 IN (OLD.sha256, NEW.sha256)
    ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1;
  INSERT INTO stale_names (name_key) SELECT '' WHERE NOT EXISTS (SELECT 1 FROM faces WHERE sha256 = NEW.sha256)
    ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1;
  DELETE FROM device_views WHERE OLD.sha256 <> NEW.sha256 AND device_id = OLD.device_id AND folder = OLD.folder AND file_name = OLD.file_name;
END;
CREATE TRIGGER observed_gone AFTER DELETE ON observed_fonts BEGIN
  DELETE FROM device_views WHERE device_id = OLD.device_id AND folder = OLD.folder AND file_name = OLD.file_name;
  INSERT INTO stale_families (family_id, parts) SELECT DISTINCT family_id, 4 FROM styles WHERE sha256 = OLD.sha256
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
  INSERT INTO stale_names (name_key) SELECT DISTINCT family_key FROM faces WHERE sha256 = OLD.sha256
    ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1;
END;

CREATE TRIGGER sightings_added AFTER INSERT ON sightings BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT family_id, 4 FROM styles WHERE id = NEW.style_id
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
END;
CREATE TRIGGER sightings_gone AFTER DELETE ON sightings BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT family_id, 4 FROM styles WHERE id = OLD.style_id
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
END;

CREATE TRIGGER programs_added AFTER INSERT ON programs BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT id, 4 FROM families WHERE true
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
END;
CREATE TRIGGER programs_changed AFTER UPDATE OF traits, removed_at ON programs
  WHEN OLD.traits IS NOT NEW.traits OR OLD.removed_at IS NOT NEW.removed_at BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT id, 4 FROM families WHERE true
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
END;
-- Opening and updating concern what lies on its device or was seen in it.
CREATE TRIGGER programs_opened AFTER UPDATE OF opened_at, updated_at ON programs BEGIN
  INSERT INTO stale_families (family_id, parts)
    SELECT DISTINCT s.family_id, 4 FROM observed_fonts o JOIN styles s ON s.sha256 = o.sha256 WHERE o.device_id = NEW.device_id
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
  INSERT INTO stale_families (family_id, parts)
    SELECT DISTINCT s.family_id, 4 FROM sightings g JOIN styles s ON s.id = g.style_id WHERE g.program_id = NEW.id
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
END;
CREATE INDEX sightings_program ON sightings(program_id);
CREATE TRIGGER devices_removed AFTER UPDATE OF removed_at ON devices WHEN OLD.removed_at IS NOT NEW.removed_at BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT id, 4 FROM families WHERE true
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
END;

CREATE TRIGGER corrections_added AFTER INSERT ON corrections BEGIN
  INSERT INTO stale_families (family_id, parts) VALUES (NEW.family_id, 2) ON CONFLICT (family_id) DO UPDATE SET parts = parts | 2, seq = seq + 1;
END;
CREATE TRIGGER licences_added AFTER INSERT ON licences BEGIN
  INSERT INTO stale_families (family_id, parts) VALUES (NEW.family_id, 2) ON CONFLICT (family_id) DO UPDATE SET parts = parts | 2, seq = seq + 1;
END;
CREATE TRIGGER licences_changed AFTER UPDATE ON licences BEGIN
  INSERT INTO stale_families (family_id, parts) VALUES (NEW.family_id, 2) ON CONFLICT (family_id) DO UPDATE SET parts = parts | 2, seq = seq + 1;
END;
CREATE TRIGGER jobs_changed AFTER UPDATE OF name, uses, removed_at ON jobs BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT family_id, 2 FROM job_families WHERE job_id = NEW.id
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 2, seq = seq + 1;
END;
CREATE TRIGGER job_families_added AFTER INSERT ON job_families BEGIN
  INSERT INTO stale_families (family_id, parts) VALUES (NEW.family_id, 2) ON CONFLICT (family_id) DO UPDATE SET parts = parts | 2, seq = seq + 1;
END;
CREATE TRIGGER job_families_gone AFTER DELETE ON job_families BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT id, 2 FROM families WHERE id = OLD.family_id
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 2, seq = seq + 1;
END;

-- Every text is read once, wherever it occurs.
CREATE TRIGGER entries_added AFTER INSERT ON parcel_entries BEGIN
  INSERT INTO stale_parcels (parcel_id) VALUES (NEW.parcel_id) ON CONFLICT (parcel_id) DO UPDATE SET seq = seq + 1;
END;
CREATE TRIGGER entries_gone AFTER DELETE ON parcel_entries BEGIN
  INSERT INTO stale_parcels (parcel_id) SELECT id FROM parcels WHERE id = OLD.parcel_id ON CONFLICT (parcel_id) DO UPDATE SET seq = seq + 1;
END;
CREATE TRIGGER entries_paper_added AFTER INSERT ON parcel_entries WHEN NEW.kind = 'paper' AND NEW.sha256 <> '' BEGIN
  INSERT INTO readings (key, kind, source, is_long)
    VALUES (NEW.sha256, 'paper', NEW.path, NEW.bytes > 100000 OR lower(NEW.path) GLOB '*.pdf' OR lower(NEW.path) GLOB '*.doc*')
    ON CONFLICT (key) DO NOTHING;
  INSERT INTO stale_families (family_id, parts) SELECT DISTINCT family_id, 2 FROM styles WHERE parcel_id = NEW.parcel_id
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 2, seq = seq + 1;
END;
CREATE TRIGGER entries_font_added AFTER INSERT ON parcel_entries WHEN NEW.kind IN ('font', 'web font') AND NEW.sha256 <> '' BEGIN
  INSERT INTO readings (key, kind, source) SELECT stated_key, 'font', json_extract(record, '$.stated') FROM faces
    WHERE sha256 = NEW.sha256 AND stated_key <> '' ON CONFLICT (key) DO NOTHING;
END;
CREATE TRIGGER entries_paper_gone AFTER DELETE ON parcel_entries WHEN OLD.kind = 'paper' BEGIN
  INSERT INTO stale_families (family_id, parts) SELECT DISTINCT family_id, 2 FROM styles WHERE parcel_id = OLD.parcel_id
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 2, seq = seq + 1;
END;
CREATE TRIGGER readings_added AFTER INSERT ON readings BEGIN
  INSERT INTO stale_families (family_id, parts)
    SELECT DISTINCT s.family_id, 2 FROM faces f JOIN styles s ON s.sha256 = f.sha256 AND s.face = f.face WHERE f.stated_key = NEW.key
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 2, seq = seq + 1;
END;
CREATE TRIGGER readings_renewed AFTER UPDATE OF reading ON readings WHEN OLD.reading IS NOT NEW.reading BEGIN
  INSERT INTO stale_families (family_id, parts)
    SELECT DISTINCT s.family_id, 2 FROM faces f JOIN styles s ON s.sha256 = f.sha256 AND s.face = f.face
      WHERE NEW.kind = 'font' AND f.stated_key = NEW.key
    UNION SELECT DISTINCT s.family_id, 2 FROM parcel_entries e JOIN styles s ON s.parcel_id = e.parcel_id
      WHERE NEW.kind = 'paper' AND e.sha256 = NEW.key
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 2, seq = seq + 1;
  INSERT INTO stale_parcels (parcel_id)
    SELECT DISTINCT parcel_id FROM parcel_entries WHERE NEW.kind = 'paper' AND sha256 = NEW.key
    UNION SELECT DISTINCT e.parcel_id FROM faces f JOIN parcel_entries e ON e.sha256 = f.sha256 WHERE NEW.kind = 'font' AND f.stated_key = NEW.key
    ON CONFLICT (parcel_id) DO UPDATE SET seq = seq + 1;
END;

CREATE TRIGGER parcels_added AFTER INSERT ON parcels BEGIN
  INSERT INTO stale_parcels (parcel_id) VALUES (NEW.id) ON CONFLICT (parcel_id) DO UPDATE SET seq = seq + 1;
END;
CREATE TRIGGER parcels_changed AFTER UPDATE ON parcels BEGIN
  INSERT INTO stale_parcels (parcel_id) VALUES (NEW.id) ON CONFLICT (parcel_id) DO UPDATE SET seq = seq + 1;
END;
CREATE TRIGGER parcels_gone AFTER DELETE ON parcels BEGIN
  DELETE FROM stale_parcels WHERE parcel_id = OLD.id;
END;
CREATE TRIGGER twin_format_chosen AFTER INSERT ON settings WHEN NEW.key = 'twinFormat' BEGIN
  INSERT INTO stale_parcels (parcel_id) SELECT id FROM parcels WHERE true ON CONFLICT (parcel_id) DO UPDATE SET seq = seq + 1;
END;
CREATE TRIGGER twin_format_changed AFTER UPDATE OF value ON settings WHEN NEW.key = 'twinFormat' AND OLD.value IS NOT NEW.value BEGIN
  INSERT INTO stale_parcels (parcel_id) SELECT id FROM parcels WHERE true ON CONFLICT (parcel_id) DO UPDATE SET seq = seq + 1;
END;

-- What can be taken back stands in the history, with what takes it back.
ALTER TABLE history ADD COLUMN undo TEXT;
CREATE INDEX history_undo ON history(id) WHERE undo IS NOT NULL;
CREATE INDEX plans_state ON plans(state, device_id);

-- Everything there was is listed anew, and every text read once more where its reading was not kept.
INSERT INTO readings (key, kind, source, is_long)
  SELECT sha256, 'paper', path, bytes > 100000 OR lower(path) GLOB '*.pdf' OR lower(path) GLOB '*.doc*' FROM parcel_entries
  WHERE kind = 'paper' AND sha256 <> '' GROUP BY sha256 ORDER BY min(id);
INSERT INTO stale_families (family_id, parts) SELECT id, 7 FROM families WHERE true ON CONFLICT (family_id) DO UPDATE SET parts = 7;
INSERT INTO stale_parcels (parcel_id) SELECT id FROM parcels WHERE true ON CONFLICT (parcel_id) DO NOTHING;
INSERT INTO stale_names (name_key) VALUES ('') ON CONFLICT (name_key) DO NOTHING;

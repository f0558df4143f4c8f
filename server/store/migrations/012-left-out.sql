-- Sentences a person left out of clearance, by the text they stand in: a paper's sha-256, or the key of a font's own fields.
CREATE TABLE left_out (
  text TEXT NOT NULL,
  sentence TEXT NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (text, sentence)
) WITHOUT ROWID;

CREATE TRIGGER left_out_added AFTER INSERT ON left_out BEGIN
  INSERT INTO stale_families (family_id, parts)
    SELECT DISTINCT s.family_id, 2 FROM parcel_entries e JOIN styles s ON s.parcel_id = e.parcel_id WHERE e.sha256 = NEW.text AND e.kind = 'paper'
    UNION SELECT DISTINCT s.family_id, 2 FROM faces f JOIN styles s ON s.sha256 = f.sha256 AND s.face = f.face WHERE f.stated_key = NEW.text
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 2, seq = seq + 1;
END;
CREATE TRIGGER left_out_gone AFTER DELETE ON left_out BEGIN
  INSERT INTO stale_families (family_id, parts)
    SELECT DISTINCT s.family_id, 2 FROM parcel_entries e JOIN styles s ON s.parcel_id = e.parcel_id WHERE e.sha256 = OLD.text AND e.kind = 'paper'
    UNION SELECT DISTINCT s.family_id, 2 FROM faces f JOIN styles s ON s.sha256 = f.sha256 AND s.face = f.face WHERE f.stated_key = OLD.text
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 2, seq = seq + 1;
END;

-- When something in the history was taken back: its entry goes on saying so.
ALTER TABLE history ADD COLUMN undone_at TEXT;
-- Families are found by their names without words of a layer, too: what is listed of them is made anew.
INSERT INTO stale_families (family_id, parts) SELECT id, 1 FROM families WHERE true
  ON CONFLICT (family_id) DO UPDATE SET parts = parts | 1, seq = seq + 1;

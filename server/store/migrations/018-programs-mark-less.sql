-- A program that comes, changes or goes concerns the families that lie on its device, were seen in it, or have a cell in it, and no others: where nothing
-- lies, nothing can be listed. A program that is given files by hand concerns every family, since any may be loaded into it.
DROP TRIGGER programs_added;
DROP TRIGGER programs_changed;
DROP TRIGGER devices_removed;

CREATE TRIGGER programs_added AFTER INSERT ON programs BEGIN
  INSERT INTO stale_families (family_id, parts)
    SELECT id, 4 FROM families WHERE json_extract(NEW.traits, '$.readsWhen') IS 'by-hand'
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
  INSERT INTO stale_families (family_id, parts)
    SELECT DISTINCT s.family_id, 4 FROM observed_fonts o JOIN styles s ON s.sha256 = o.sha256 WHERE o.device_id = NEW.device_id
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
END;
CREATE TRIGGER programs_changed AFTER UPDATE OF traits, removed_at ON programs
  WHEN OLD.traits IS NOT NEW.traits OR OLD.removed_at IS NOT NEW.removed_at BEGIN
  INSERT INTO stale_families (family_id, parts)
    SELECT id, 4 FROM families
    WHERE json_extract(NEW.traits, '$.readsWhen') IS 'by-hand' OR json_extract(OLD.traits, '$.readsWhen') IS 'by-hand'
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
  INSERT INTO stale_families (family_id, parts)
    SELECT family_id, 4 FROM (
      SELECT s.family_id FROM observed_fonts o JOIN styles s ON s.sha256 = o.sha256 WHERE o.device_id IN (OLD.device_id, NEW.device_id)
      UNION SELECT s.family_id FROM sightings g JOIN styles s ON s.id = g.style_id WHERE g.program_id = NEW.id
      UNION SELECT family_id FROM family_cells WHERE program_id = NEW.id
    ) WHERE true
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
END;
CREATE TRIGGER devices_removed AFTER UPDATE OF removed_at ON devices WHEN OLD.removed_at IS NOT NEW.removed_at BEGIN
  INSERT INTO stale_families (family_id, parts)
    SELECT id, 4 FROM families
    WHERE EXISTS (SELECT 1 FROM programs WHERE device_id = NEW.id AND json_extract(traits, '$.readsWhen') IS 'by-hand')
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
  INSERT INTO stale_families (family_id, parts)
    SELECT family_id, 4 FROM (
      SELECT s.family_id FROM observed_fonts o JOIN styles s ON s.sha256 = o.sha256 WHERE o.device_id = NEW.id
      UNION SELECT s.family_id FROM sightings g JOIN styles s ON s.id = g.style_id JOIN programs p ON p.id = g.program_id WHERE p.device_id = NEW.id
      UNION SELECT c.family_id FROM family_cells c JOIN programs p ON p.id = c.program_id WHERE p.device_id = NEW.id
    ) WHERE true
    ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1;
END;

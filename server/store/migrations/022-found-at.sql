-- The file's own time, by which a glance knows it again. "since" is when these bytes came there: a copied or restored folder changes the one only.
ALTER TABLE observed_fonts ADD COLUMN stamp TEXT NOT NULL DEFAULT '';
UPDATE observed_fonts SET stamp = since;

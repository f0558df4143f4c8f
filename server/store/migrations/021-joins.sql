-- What a family brought along when it was filed under another, so that it can be taken apart again: its corrections, licences, tags, jobs, styles
-- and history. was_there: the other family had it already.
CREATE TABLE family_joins (
  key TEXT NOT NULL,
  what TEXT NOT NULL,
  ref_id INTEGER NOT NULL,
  role TEXT NOT NULL DEFAULT '',
  was_there INTEGER NOT NULL DEFAULT 0,
  PRIMARY KEY (key, what, ref_id)
) WITHOUT ROWID;

-- Cuts: what is chosen for a line of a sheet, and what was made, each with the line and the settings of that moment.

CREATE TABLE bench_cuts (
  sheet_id INTEGER NOT NULL REFERENCES bench_sheets(id) ON DELETE CASCADE,
  line_id TEXT NOT NULL,
  settings TEXT NOT NULL,
  changed_at TEXT NOT NULL,
  PRIMARY KEY (sheet_id, line_id)
) WITHOUT ROWID;

CREATE TABLE cuts_made (
  id INTEGER PRIMARY KEY,
  sheet_id INTEGER NOT NULL REFERENCES bench_sheets(id) ON DELETE CASCADE,
  line_id TEXT NOT NULL,
  source TEXT NOT NULL,
  numbers TEXT NOT NULL,
  colours INTEGER NOT NULL,
  at TEXT NOT NULL
);
CREATE INDEX cuts_made_line ON cuts_made(sheet_id, line_id);

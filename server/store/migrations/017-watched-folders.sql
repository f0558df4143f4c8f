-- Folders that were watched once: what lay in one when it was first chosen is left alone, what came since is not, even when it was empty then.
CREATE TABLE watched_folders (
  path TEXT PRIMARY KEY,
  first_watched_at TEXT NOT NULL
) WITHOUT ROWID;
-- Folders of files that were looked at have been watched, too.
INSERT OR IGNORE INTO watched_folders (path, first_watched_at)
  SELECT rtrim(rtrim(path, replace(path, '/', '')), '/'), min(seen_at) FROM watched_files GROUP BY 1;

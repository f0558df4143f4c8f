-- Devices for real: this computer and paired ones beside practice devices, what was observed in more detail, what happened behind
-- Buvano's back, plans that remember what was asked and chosen, and pairing.

ALTER TABLE devices ADD COLUMN sort TEXT NOT NULL DEFAULT 'practice';
-- Set when a device is no longer wanted; what was seen on it stays in the history.
ALTER TABLE devices ADD COLUMN removed_at TEXT;

ALTER TABLE observed_fonts ADD COLUMN bytes INTEGER NOT NULL DEFAULT 0;
ALTER TABLE observed_fonts ADD COLUMN is_visible INTEGER NOT NULL DEFAULT 1;

CREATE TABLE surprises (
  id INTEGER PRIMARY KEY,
  device_id INTEGER NOT NULL REFERENCES devices(id) ON DELETE CASCADE,
  how TEXT NOT NULL,
  folder TEXT NOT NULL,
  file_name TEXT NOT NULL,
  sha256 TEXT NOT NULL,
  at TEXT NOT NULL,
  -- Set once a person has looked at it.
  seen_at TEXT
);
CREATE INDEX surprises_device ON surprises(device_id, seen_at);

ALTER TABLE plans ADD COLUMN request TEXT NOT NULL DEFAULT '{}';
ALTER TABLE plans ADD COLUMN choices TEXT NOT NULL DEFAULT '{}';
-- What the device held when the plan was drawn, as one digest.
ALTER TABLE plans ADD COLUMN drawn_from TEXT NOT NULL DEFAULT '';
-- Steps of earlier plans name no item they belong to; the plans stay in the history and can no longer be carried out or undone.
DELETE FROM plans;

-- Devices on the network that showed a one-time code. A token is known by its digest only.
CREATE TABLE pairings (
  device_id INTEGER PRIMARY KEY REFERENCES devices(id) ON DELETE CASCADE,
  token_sha256 TEXT NOT NULL UNIQUE,
  paired_at TEXT NOT NULL,
  seen_at TEXT NOT NULL,
  revoked_at TEXT
);
-- What paired devices say of single styles: drawn as the shipped file draws them, or not there.
CREATE TABLE device_answers (
  device_id INTEGER NOT NULL REFERENCES devices(id) ON DELETE CASCADE,
  sha256 TEXT NOT NULL,
  answer TEXT NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (device_id, sha256)
) WITHOUT ROWID;

-- The library, its parcels, devices, plans and evidence. Times are ISO 8601 text in UTC.

CREATE TABLE parcels (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('waiting', 'unpacking', 'ready', 'failed')),
  problem TEXT,
  arrived_at TEXT NOT NULL
);

-- The files a parcel arrived as, kept until it is removed.
CREATE TABLE parcel_files (
  id INTEGER PRIMARY KEY,
  parcel_id INTEGER NOT NULL REFERENCES parcels(id) ON DELETE CASCADE,
  name TEXT NOT NULL,
  stored_as TEXT NOT NULL,
  bytes INTEGER NOT NULL
);

CREATE TABLE parcel_entries (
  id INTEGER PRIMARY KEY,
  parcel_id INTEGER NOT NULL REFERENCES parcels(id) ON DELETE CASCADE,
  path TEXT NOT NULL,
  kind TEXT NOT NULL,
  reason TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  sha256 TEXT NOT NULL,
  problem TEXT
);
CREATE INDEX parcel_entries_parcel ON parcel_entries(parcel_id);
CREATE INDEX parcel_entries_sha ON parcel_entries(sha256);

-- What is known of each face from its bytes alone; shared by all that hold the same bytes.
CREATE TABLE faces (
  sha256 TEXT NOT NULL,
  face INTEGER NOT NULL,
  family TEXT NOT NULL,
  style TEXT NOT NULL,
  legacy_family TEXT NOT NULL,
  legacy_style TEXT NOT NULL,
  full_name TEXT NOT NULL,
  postscript_name TEXT NOT NULL,
  weight INTEGER NOT NULL,
  width INTEGER NOT NULL,
  italic INTEGER NOT NULL,
  codepoints INTEGER NOT NULL,
  container TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  verdict TEXT NOT NULL,
  record TEXT NOT NULL,
  PRIMARY KEY (sha256, face)
) WITHOUT ROWID;

CREATE TABLE families (
  id INTEGER PRIMARY KEY,
  key TEXT NOT NULL UNIQUE,
  name TEXT NOT NULL
);

CREATE TABLE styles (
  id INTEGER PRIMARY KEY,
  family_id INTEGER NOT NULL REFERENCES families(id) ON DELETE CASCADE,
  sha256 TEXT NOT NULL,
  face INTEGER NOT NULL,
  parcel_id INTEGER REFERENCES parcels(id) ON DELETE SET NULL,
  file_name TEXT NOT NULL,
  shelved_at TEXT NOT NULL,
  UNIQUE (sha256, face)
);
CREATE INDEX styles_family ON styles(family_id);

CREATE TABLE devices (
  id INTEGER PRIMARY KEY,
  slug TEXT NOT NULL UNIQUE,
  name TEXT NOT NULL,
  kind TEXT NOT NULL,
  observed_at TEXT
);

CREATE TABLE programs (
  id INTEGER PRIMARY KEY,
  device_id INTEGER NOT NULL REFERENCES devices(id) ON DELETE CASCADE,
  slug TEXT NOT NULL,
  name TEXT NOT NULL,
  kind TEXT NOT NULL,
  traits TEXT NOT NULL,
  opened_at TEXT,
  UNIQUE (device_id, slug)
);

-- What a device was last seen to hold.
CREATE TABLE observed_fonts (
  device_id INTEGER NOT NULL REFERENCES devices(id) ON DELETE CASCADE,
  folder TEXT NOT NULL,
  file_name TEXT NOT NULL,
  sha256 TEXT NOT NULL,
  is_on INTEGER NOT NULL,
  since TEXT NOT NULL,
  PRIMARY KEY (device_id, folder, file_name)
) WITHOUT ROWID;
CREATE INDEX observed_fonts_sha ON observed_fonts(sha256);

CREATE TABLE plans (
  id INTEGER PRIMARY KEY,
  device_id INTEGER NOT NULL REFERENCES devices(id) ON DELETE CASCADE,
  action TEXT NOT NULL,
  account TEXT NOT NULL,
  family_ids TEXT NOT NULL,
  state TEXT NOT NULL,
  steps TEXT NOT NULL,
  fonts_before INTEGER NOT NULL,
  fonts_after INTEGER NOT NULL,
  drawn_at TEXT NOT NULL
);

CREATE TABLE sightings (
  id INTEGER PRIMARY KEY,
  style_id INTEGER NOT NULL REFERENCES styles(id) ON DELETE CASCADE,
  program_id INTEGER NOT NULL REFERENCES programs(id) ON DELETE CASCADE,
  result TEXT NOT NULL CHECK (result IN ('seen', 'swapped')),
  instead TEXT NOT NULL,
  sentence TEXT NOT NULL,
  file_name TEXT NOT NULL,
  file_sha256 TEXT NOT NULL,
  fonts TEXT NOT NULL,
  at TEXT NOT NULL
);
CREATE INDEX sightings_cell ON sightings(style_id, program_id, id);

CREATE TABLE history (
  id INTEGER PRIMARY KEY,
  at TEXT NOT NULL,
  kind TEXT NOT NULL,
  sentence TEXT NOT NULL
);
CREATE TABLE history_families (
  history_id INTEGER NOT NULL REFERENCES history(id) ON DELETE CASCADE,
  family_id INTEGER NOT NULL REFERENCES families(id) ON DELETE CASCADE,
  PRIMARY KEY (history_id, family_id)
) WITHOUT ROWID;
CREATE INDEX history_families_family ON history_families(family_id);

-- What others did on a device is an external change, by one name everywhere.
ALTER TABLE surprises RENAME TO external_changes;
DROP INDEX surprises_device;
CREATE INDEX external_changes_device ON external_changes(device_id, seen_at);

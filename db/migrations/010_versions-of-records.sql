-- Up Migration
-- What names notes says in which version (`core/marking/versions.ts`); rows that are there now are of the first one.

ALTER TABLE markings ADD COLUMN version int NOT NULL DEFAULT 1;
ALTER TABLE markings ALTER COLUMN version SET DEFAULT 2;
ALTER TABLE editions ADD COLUMN version int NOT NULL DEFAULT 1;
ALTER TABLE editions ALTER COLUMN version SET DEFAULT 2;

-- Down Migration
ALTER TABLE editions DROP COLUMN version;
ALTER TABLE markings DROP COLUMN version;

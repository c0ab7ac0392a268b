-- Up Migration
-- What names notes says in which version (`core/marking/versions.ts`); rows that are there now are of the first one.

ALTER TABLE markings ADD COLUMN version int NOT NULL DEFAULT 1;
ALTER TABLE markings ALTER COLUMN version SET DEFAULT 2;
-- Of a part and an edition also the document that is cut out for it: since the second version it says how its score counts.
ALTER TABLE parts ADD COLUMN version int NOT NULL DEFAULT 1;
ALTER TABLE parts ALTER COLUMN version SET DEFAULT 2;
ALTER TABLE editions ADD COLUMN version int NOT NULL DEFAULT 1;
ALTER TABLE editions ALTER COLUMN version SET DEFAULT 2;

-- Down Migration
ALTER TABLE parts DROP COLUMN version;
ALTER TABLE editions DROP COLUMN version;
ALTER TABLE markings DROP COLUMN version;

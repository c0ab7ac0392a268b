-- Up Migration
-- Players are made in the browser; one that is taken out of the list can be put back.

ALTER TABLE players ADD COLUMN removed_at timestamptz;

-- Down Migration
ALTER TABLE players DROP COLUMN removed_at;

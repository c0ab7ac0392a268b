-- Up Migration
-- One chain of undo for all that is done on a part: what was done at once in several markings, from which part's Desk it was done,
-- and a log of what is no mark.

ALTER TABLE change_sets ADD COLUMN together uuid, ADD COLUMN from_part uuid;
CREATE INDEX change_sets_together ON change_sets (studio_id, together) WHERE together IS NOT NULL;
CREATE INDEX change_sets_from_part ON change_sets (studio_id, from_part) WHERE from_part IS NOT NULL;

CREATE TABLE part_deeds (
  id uuid PRIMARY KEY,
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  part_id uuid NOT NULL REFERENCES parts ON DELETE CASCADE,
  -- Order in which they were stored.
  sequence bigint GENERATED ALWAYS AS IDENTITY,
  author text NOT NULL,
  at timestamptz NOT NULL,
  reason text NOT NULL,
  about text NOT NULL CHECK (about IN ('passages', 'settings')),
  -- Passages: all of them. Settings: those that were said anew.
  before jsonb NOT NULL,
  after jsonb NOT NULL,
  -- The deed that this one takes back.
  undoes uuid
);
CREATE INDEX part_deeds_in_order ON part_deeds (studio_id, part_id, sequence);

-- Down Migration
DROP TABLE part_deeds;
ALTER TABLE change_sets DROP COLUMN together, DROP COLUMN from_part;

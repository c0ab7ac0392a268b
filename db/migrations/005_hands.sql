-- Up Migration
-- A hand may be measured instead of taken from a preset, and a player was taught in one school or another.

ALTER TABLE players
  -- {comfortable, greatest, pairs} in mm; null where the preset stands.
  ADD COLUMN measured jsonb,
  -- {bassFingers, thumbFrom}; what is missing is as usual.
  ADD COLUMN technique jsonb NOT NULL DEFAULT '{}';

-- Down Migration
ALTER TABLE players DROP COLUMN measured, DROP COLUMN technique;

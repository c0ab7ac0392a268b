-- Up Migration
-- Edits against the print carry a reason and can be set aside; every mark says who made it.

ALTER TABLE marks
  ADD COLUMN why text,
  ADD COLUMN off boolean NOT NULL DEFAULT false,
  ADD COLUMN author text;

-- Down Migration
ALTER TABLE marks DROP COLUMN why, DROP COLUMN off, DROP COLUMN author;

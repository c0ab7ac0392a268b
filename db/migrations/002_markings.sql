-- Up Migration
-- A marking is kept twice: as the marks in force, and as the list of change sets that led to them.

CREATE TABLE markings (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  part_id uuid NOT NULL REFERENCES parts ON DELETE CASCADE,
  name text NOT NULL,
  created_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX markings_of_part ON markings (studio_id, part_id);

CREATE TABLE marks (
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  marking_id uuid NOT NULL REFERENCES markings ON DELETE CASCADE,
  target text NOT NULL,
  kind text NOT NULL,
  value text NOT NULL,
  origin text NOT NULL CHECK (origin IN ('coach', 'suggestion')),
  PRIMARY KEY (marking_id, target, kind)
);

CREATE TABLE change_sets (
  id uuid PRIMARY KEY,
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  marking_id uuid NOT NULL REFERENCES markings ON DELETE CASCADE,
  -- Order in which they were stored.
  sequence bigint GENERATED ALWAYS AS IDENTITY,
  author text NOT NULL,
  at timestamptz NOT NULL,
  reason text NOT NULL,
  -- [{target, kind, from, to}]
  changes jsonb NOT NULL,
  -- The set that this one takes back.
  undoes uuid REFERENCES change_sets ON DELETE CASCADE
);
CREATE INDEX change_sets_in_order ON change_sets (studio_id, marking_id, sequence);

-- Down Migration
DROP TABLE change_sets, marks, markings;

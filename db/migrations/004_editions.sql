-- Up Migration
-- A part can be compared with other editions of it, and its file can be replaced by one of them.

-- Null: the part stands in the piece's own file.
ALTER TABLE parts ADD COLUMN source_id uuid REFERENCES sources ON DELETE CASCADE;

-- Another edition that was brought in for a part.
CREATE TABLE editions (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  part_id uuid NOT NULL REFERENCES parts ON DELETE CASCADE,
  source_id uuid NOT NULL REFERENCES sources ON DELETE CASCADE,
  -- The part of that file which is compared.
  file_part_id text NOT NULL,
  name text NOT NULL,
  music text NOT NULL,
  -- Differences that the coach has decided to leave, by id.
  left_alone jsonb NOT NULL DEFAULT '[]',
  created_at timestamptz NOT NULL DEFAULT now(),
  UNIQUE (part_id, source_id, file_part_id)
);

-- Undo does not go back over a change of file.
ALTER TABLE change_sets ADD COLUMN boundary boolean NOT NULL DEFAULT false;

-- Down Migration
ALTER TABLE change_sets DROP COLUMN boundary;
DROP TABLE editions;
ALTER TABLE parts DROP COLUMN source_id;

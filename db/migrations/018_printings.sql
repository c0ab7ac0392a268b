-- Up Migration
-- All that is out of a piece put on paper as work of its own, a part at a time, by whichever worker is free (`server/jobs`).

CREATE TABLE printings (
  id uuid PRIMARY KEY,
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  -- One for each piece: the next one takes its place.
  piece_id uuid NOT NULL UNIQUE REFERENCES pieces ON DELETE CASCADE,
  begun_at timestamptz NOT NULL DEFAULT now(),
  begun_by text NOT NULL,
  paper text NOT NULL CHECK (paper IN ('a4', 'letter')),
  -- Ended before it was done; begun again it goes on.
  stopped_at timestamptz
);

-- Its parts, each of the hand-out that was the latest: done once, however often the work is begun.
CREATE TABLE printing_parts (
  printing_id uuid NOT NULL REFERENCES printings ON DELETE CASCADE,
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  part_id uuid NOT NULL REFERENCES parts ON DELETE CASCADE,
  handout_id uuid NOT NULL REFERENCES handouts ON DELETE CASCADE,
  position int NOT NULL,
  done_at timestamptz,
  pdf bytea,
  -- Why it could not be printed, in words.
  trouble text,
  PRIMARY KEY (printing_id, part_id)
);

DO $$
DECLARE name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['printings', 'printing_parts'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', name);
    EXECUTE format('CREATE POLICY own_studio ON %I USING (studio_id = (SELECT current_studio())) WITH CHECK (studio_id = (SELECT current_studio()))', name);
  END LOOP;
END $$;

-- Down Migration
DROP TABLE printing_parts, printings;

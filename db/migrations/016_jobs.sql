-- Up Migration
-- The whole shelf checked as work of its own, a part at a time, by whichever worker is free (`server/jobs`).

-- What the last check of a part came to.
CREATE TABLE checks (
  part_id uuid PRIMARY KEY REFERENCES parts ON DELETE CASCADE,
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  -- Of what it depended on: another one means that it is out of date.
  state text NOT NULL,
  checked_at timestamptz NOT NULL DEFAULT now(),
  -- Spots to watch, risks, and what will fail; null where it could not be checked, and why in words.
  counts int[],
  -- The worst of them: {bar, text}
  worst jsonb,
  trouble text
);

-- One round over the shelf.
CREATE TABLE rounds (
  id uuid PRIMARY KEY,
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  begun_at timestamptz NOT NULL DEFAULT now(),
  begun_by text NOT NULL,
  ended_at timestamptz
);
CREATE UNIQUE INDEX one_round_at_a_time ON rounds (studio_id) WHERE ended_at IS NULL;

-- Its parts: done once each, however often the work is begun.
CREATE TABLE round_parts (
  round_id uuid NOT NULL REFERENCES rounds ON DELETE CASCADE,
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  part_id uuid NOT NULL REFERENCES parts ON DELETE CASCADE,
  done_at timestamptz,
  PRIMARY KEY (round_id, part_id)
);

DO $$
DECLARE name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['checks', 'rounds', 'round_parts'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', name);
    EXECUTE format('CREATE POLICY own_studio ON %I USING (studio_id = (SELECT current_studio())) WITH CHECK (studio_id = (SELECT current_studio()))', name);
  END LOOP;
END $$;

-- Whoever sweeps goes from studio to studio.
CREATE FUNCTION studio_ids() RETURNS SETOF uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
  SELECT id FROM studios ORDER BY id;
$$;

-- Down Migration
DROP FUNCTION studio_ids();
DROP TABLE round_parts, rounds, checks;

-- Up Migration
-- People and how they come in; what is seen of a studio is held back by the database itself, too.

CREATE TABLE people (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  name text NOT NULL,
  role text NOT NULL CHECK (role IN ('owner', 'coach')),
  -- What they sign in with, in small letters; null where they come in by a key.
  sign_in text UNIQUE,
  -- argon2id, in its own notation.
  pass_hash text,
  since timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX people_of_studio ON people (studio_id);

-- A player's own door: no account, one address. Of the address only the digest is kept.
CREATE TABLE links (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  player_id uuid NOT NULL REFERENCES players ON DELETE CASCADE,
  token_hash bytea NOT NULL UNIQUE,
  made_by text NOT NULL,
  made_at timestamptz NOT NULL DEFAULT now(),
  expires_at timestamptz,
  revoked_at timestamptz,
  used_at timestamptz
);
CREATE INDEX links_of_player ON links (studio_id, player_id);

-- A browser that was let in.
CREATE TABLE sessions (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  token_hash bytea NOT NULL UNIQUE,
  person_id uuid REFERENCES people ON DELETE CASCADE,
  link_id uuid REFERENCES links ON DELETE CASCADE,
  -- What it is, as it says itself: "Firefox on Linux".
  device text NOT NULL,
  made_at timestamptz NOT NULL DEFAULT now(),
  seen_at timestamptz NOT NULL DEFAULT now(),
  expires_at timestamptz NOT NULL,
  CHECK ((person_id IS NULL) <> (link_id IS NULL))
);
CREATE INDEX sessions_of_person ON sessions (person_id);
CREATE INDEX sessions_of_link ON sessions (link_id);

-- Lets in one browser, once.
CREATE TABLE keys (
  token_hash bytea PRIMARY KEY,
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  person_id uuid NOT NULL REFERENCES people ON DELETE CASCADE,
  expires_at timestamptz NOT NULL
);

-- What was done that is no mark: coming in, letting in, taking away.
CREATE TABLE doings (
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  sequence bigint GENERATED ALWAYS AS IDENTITY,
  at timestamptz NOT NULL DEFAULT now(),
  person text NOT NULL,
  what text NOT NULL,
  about text NOT NULL,
  PRIMARY KEY (studio_id, sequence)
);

-- How often somebody knocked; written by the package that counts.
CREATE TABLE knocks (key text PRIMARY KEY, points integer NOT NULL DEFAULT 0, expire bigint);

-- Null: nobody has come in yet, and the first browser of this machine may.
ALTER TABLE studios ADD COLUMN claimed_at timestamptz;

-- Every studio that is there has an owner from now on; what was done bears this name already.
INSERT INTO people (studio_id, name, role) SELECT id, 'coach', 'owner' FROM studios;

-- A change set is one of its marking: browsers name them, and a name that another marking knows is no reason to leave one out.
ALTER TABLE change_sets DROP CONSTRAINT change_sets_undoes_fkey;
ALTER TABLE change_sets DROP CONSTRAINT change_sets_pkey;
ALTER TABLE change_sets ADD PRIMARY KEY (marking_id, id);

-- ---- one studio never sees another, whatever a query forgets ------------------------------------

CREATE FUNCTION current_studio() RETURNS uuid LANGUAGE sql STABLE PARALLEL SAFE
  RETURN nullif(current_setting('omaggio.studio', true), '')::uuid;

DO $$
DECLARE name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['sources', 'pieces', 'parts', 'players', 'passages', 'settings', 'markings', 'marks', 'change_sets',
    'editions', 'part_deeds', 'papers', 'people', 'links', 'sessions', 'keys', 'doings']
  LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', name);
    EXECUTE format('CREATE POLICY own_studio ON %I USING (studio_id = (SELECT current_studio())) WITH CHECK (studio_id = (SELECT current_studio()))', name);
  END LOOP;
END $$;
ALTER TABLE studios ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_studio ON studios USING (id = (SELECT current_studio())) WITH CHECK (id = (SELECT current_studio()));

-- ---- what the door asks before it knows the studio; nothing else can be asked without one ----------

CREATE FUNCTION door_session(asked bytea)
RETURNS TABLE (id uuid, studio_id uuid, person_id uuid, player_id uuid, name text, role text)
LANGUAGE sql VOLATILE SECURITY DEFINER SET search_path = public AS $$
  UPDATE sessions SET seen_at = now(), expires_at = CASE WHEN sessions.person_id IS NULL THEN expires_at ELSE now() + interval '30 days' END
   WHERE token_hash = asked AND expires_at > now() AND seen_at < now() - interval '1 minute';
  SELECT sessions.id, sessions.studio_id, sessions.person_id, links.player_id, coalesce(people.name, players.name),
         coalesce(people.role, 'player')
    FROM sessions
    LEFT JOIN people ON people.id = sessions.person_id
    LEFT JOIN links ON links.id = sessions.link_id AND links.revoked_at IS NULL AND (links.expires_at IS NULL OR links.expires_at > now())
    LEFT JOIN players ON players.id = links.player_id AND players.removed_at IS NULL
   WHERE sessions.token_hash = asked AND sessions.expires_at > now()
     AND (people.id IS NOT NULL OR players.id IS NOT NULL);
$$;

CREATE FUNCTION door_key(asked bytea) RETURNS TABLE (studio_id uuid, person_id uuid)
LANGUAGE sql VOLATILE SECURITY DEFINER SET search_path = public AS $$
  WITH used AS (DELETE FROM keys WHERE token_hash = asked AND expires_at > now() RETURNING keys.studio_id, keys.person_id),
  claimed AS (UPDATE studios SET claimed_at = coalesce(claimed_at, now()) FROM used WHERE studios.id = used.studio_id)
  SELECT used.studio_id, used.person_id FROM used;
$$;

CREATE FUNCTION door_link(asked bytea) RETURNS TABLE (id uuid, studio_id uuid)
LANGUAGE sql VOLATILE SECURITY DEFINER SET search_path = public AS $$
  UPDATE links SET used_at = now() FROM players
   WHERE token_hash = asked AND revoked_at IS NULL AND (expires_at IS NULL OR expires_at > now()) AND players.id = player_id AND players.removed_at IS NULL
  RETURNING links.id, links.studio_id;
$$;

-- The first browser of a studio that nobody has entered yet: once.
CREATE FUNCTION door_first() RETURNS TABLE (studio_id uuid, person_id uuid)
LANGUAGE sql VOLATILE SECURITY DEFINER SET search_path = public AS $$
  WITH first AS (UPDATE studios SET claimed_at = now() WHERE claimed_at IS NULL AND id = (SELECT id FROM studios ORDER BY created_at, id LIMIT 1) RETURNING id)
  SELECT first.id, people.id FROM first JOIN people ON people.studio_id = first.id AND role = 'owner' ORDER BY since, people.id LIMIT 1;
$$;

CREATE FUNCTION door_sign_in(asked text) RETURNS TABLE (person_id uuid, pass_hash text, studio_id uuid)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
  SELECT people.id, people.pass_hash, people.studio_id FROM people WHERE sign_in = asked AND people.pass_hash IS NOT NULL;
$$;

-- Whether anybody can sign in with a pass phrase at all, and whether the first browser is still to come.
CREATE FUNCTION door_ways() RETURNS TABLE (phrases boolean, unclaimed boolean)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
  SELECT EXISTS (SELECT 1 FROM people WHERE pass_hash IS NOT NULL),
         coalesce((SELECT claimed_at IS NULL FROM studios ORDER BY created_at, id LIMIT 1), false);
$$;

-- Down Migration
DROP FUNCTION door_ways(), door_sign_in(text), door_first(), door_link(bytea), door_key(bytea), door_session(bytea);
DO $$
DECLARE name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['studios', 'sources', 'pieces', 'parts', 'players', 'passages', 'settings', 'markings', 'marks', 'change_sets',
    'editions', 'part_deeds', 'papers']
  LOOP
    EXECUTE format('DROP POLICY own_studio ON %I', name);
    EXECUTE format('ALTER TABLE %I DISABLE ROW LEVEL SECURITY', name);
  END LOOP;
END $$;
ALTER TABLE change_sets DROP CONSTRAINT change_sets_pkey;
ALTER TABLE change_sets ADD PRIMARY KEY (id);
ALTER TABLE change_sets ADD FOREIGN KEY (undoes) REFERENCES change_sets ON DELETE CASCADE;
DROP TABLE knocks, doings, keys, sessions, links, people;
DROP FUNCTION current_studio();
ALTER TABLE studios DROP COLUMN claimed_at;

-- Up Migration
-- What the players of a part get, frozen and numbered; who has seen it, and what they answer.

-- Frozen contents, each kept once: documents of parts, and the states of hand-outs (`core/handout/frozen.ts`).
CREATE TABLE frozen (
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  sha256 text NOT NULL,
  text text NOT NULL,
  PRIMARY KEY (studio_id, sha256)
);

CREATE TABLE handouts (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  part_id uuid NOT NULL REFERENCES parts ON DELETE CASCADE,
  number int NOT NULL CHECK (number > 0),
  made_at timestamptz NOT NULL DEFAULT now(),
  made_by text NOT NULL,
  -- A word from the coach.
  word text NOT NULL,
  state text NOT NULL,
  music text NOT NULL,
  -- Shared by what was handed out at once.
  together uuid NOT NULL,
  UNIQUE (part_id, number),
  FOREIGN KEY (studio_id, state) REFERENCES frozen (studio_id, sha256),
  FOREIGN KEY (studio_id, music) REFERENCES frozen (studio_id, sha256)
);
CREATE INDEX handouts_by_state ON handouts (studio_id, state);
CREATE INDEX handouts_by_music ON handouts (studio_id, music);

-- Who got it, and what is theirs alone in it: own marks, and the line of a divided part.
CREATE TABLE handout_players (
  handout_id uuid NOT NULL REFERENCES handouts ON DELETE CASCADE,
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  player_id uuid NOT NULL REFERENCES players ON DELETE CASCADE,
  own jsonb NOT NULL,
  line int,
  given_at timestamptz NOT NULL DEFAULT now(),
  -- A word of their own, where they got it later than the others.
  word text NOT NULL DEFAULT '',
  opened_at timestamptz,
  -- Bars of its changes that the player has copied into their part, by index; -1 for what is about the whole part.
  copied int[] NOT NULL DEFAULT '{}',
  -- Whether who teaches may look at the player's pencil marks; null where it is as with the hand-out before.
  shows_pencil boolean,
  PRIMARY KEY (handout_id, player_id)
);
CREATE INDEX handouts_of_player ON handout_players (studio_id, player_id);

CREATE TABLE answers (
  id uuid PRIMARY KEY,
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  handout_id uuid NOT NULL REFERENCES handouts ON DELETE CASCADE,
  player_id uuid NOT NULL REFERENCES players ON DELETE CASCADE,
  -- By index; null for the whole part.
  bar int,
  kind text NOT NULL CHECK (kind IN ('hurts', 'does not work', 'question', 'words')),
  words text NOT NULL,
  -- As the player's browser says it; it may have been sent later.
  at timestamptz NOT NULL,
  received_at timestamptz NOT NULL DEFAULT now(),
  settled_at timestamptz,
  settled_by text
);
-- What a player pencilled into the hand-out that they have; with the next one it goes on to that. Rubbed out where there is no value.
CREATE TABLE pencil (
  handout_id uuid NOT NULL REFERENCES handouts ON DELETE CASCADE,
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  player_id uuid NOT NULL REFERENCES players ON DELETE CASCADE,
  target text NOT NULL,
  kind text NOT NULL CHECK (kind IN ('finger', 'bow', 'circle', 'look', 'words')),
  value text,
  -- Where it stands, as people say it.
  place text NOT NULL,
  -- As the player's browser says it.
  at timestamptz NOT NULL,
  PRIMARY KEY (handout_id, player_id, target, kind)
);
CREATE INDEX pencil_of_player ON pencil (studio_id, player_id);

CREATE INDEX answers_of_handout ON answers (handout_id);
CREATE INDEX answers_of_player ON answers (studio_id, player_id);

DO $$
DECLARE name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['frozen', 'handouts', 'handout_players', 'answers', 'pencil'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', name);
    EXECUTE format('CREATE POLICY own_studio ON %I USING (studio_id = (SELECT current_studio())) WITH CHECK (studio_id = (SELECT current_studio()))', name);
  END LOOP;
END $$;

-- Down Migration
DROP TABLE pencil, answers, handout_players, handouts, frozen;

-- Up Migration
-- Every row belongs to a studio; every query filters by it.

CREATE TABLE studios (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  name text NOT NULL,
  created_at timestamptz NOT NULL DEFAULT now()
);

-- A file as it was received, byte for byte, kept once per studio.
CREATE TABLE sources (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  sha256 char(64) NOT NULL,
  file_name text NOT NULL,
  bytes bytea NOT NULL,
  received_at timestamptz NOT NULL DEFAULT now(),
  UNIQUE (studio_id, sha256)
);

CREATE TABLE pieces (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  source_id uuid NOT NULL REFERENCES sources ON DELETE CASCADE,
  title text NOT NULL,
  composer text,
  -- What the reader noticed: [{place, text}]
  warnings jsonb NOT NULL DEFAULT '[]',
  created_at timestamptz NOT NULL DEFAULT now(),
  removed_at timestamptz
);
-- A file lies on the shelf once.
CREATE UNIQUE INDEX pieces_on_shelf ON pieces (studio_id, source_id) WHERE removed_at IS NULL;

CREATE TABLE parts (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  piece_id uuid NOT NULL REFERENCES pieces ON DELETE CASCADE,
  position int NOT NULL,
  -- The id of the part inside the file.
  file_part_id text NOT NULL,
  name text NOT NULL,
  instrument text CHECK (instrument IN ('violin', 'viola', 'cello', 'bass')),
  bars int NOT NULL,
  notes int NOT NULL,
  -- Printed labels of the bars, so that an address can name them.
  bar_labels text[] NOT NULL,
  -- The part cut out of the source as a MusicXML document of its own; derived, never edited.
  music text NOT NULL,
  UNIQUE (piece_id, position)
);

CREATE TABLE players (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  name text NOT NULL,
  instrument text NOT NULL CHECK (instrument IN ('violin', 'viola', 'cello', 'bass')),
  size text NOT NULL,
  tuning text NOT NULL DEFAULT 'orchestral',
  hand text NOT NULL CHECK (hand IN ('small', 'medium', 'large')),
  level text NOT NULL CHECK (level IN ('beginner', 'intermediate', 'advanced', 'professional')),
  thumb_position boolean NOT NULL DEFAULT false,
  created_at timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE passages (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  part_id uuid NOT NULL REFERENCES parts ON DELETE CASCADE,
  position int NOT NULL,
  name text NOT NULL,
  from_bar int NOT NULL CHECK (from_bar >= 0),
  to_bar int NOT NULL,
  CHECK (to_bar >= from_bar),
  UNIQUE (part_id, position) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE settings (
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  -- studio, player, part or passage
  scope text NOT NULL,
  scope_id uuid NOT NULL,
  key text NOT NULL,
  value jsonb NOT NULL,
  PRIMARY KEY (studio_id, scope, scope_id, key)
);

-- Down Migration
DROP TABLE settings, passages, players, parts, pieces, sources, studios;

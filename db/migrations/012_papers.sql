-- Up Migration
-- Sheets that a passage was typed from: photographs and PDF files, kept with it.

CREATE TABLE papers (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  studio_id uuid NOT NULL REFERENCES studios ON DELETE CASCADE,
  piece_id uuid NOT NULL REFERENCES pieces ON DELETE CASCADE,
  source_id uuid NOT NULL REFERENCES sources ON DELETE CASCADE,
  name text NOT NULL,
  -- Media type, by the first bytes.
  type text NOT NULL,
  created_at timestamptz NOT NULL DEFAULT now(),
  UNIQUE (piece_id, source_id)
);
CREATE INDEX papers_of_piece ON papers (studio_id, piece_id);

-- Down Migration
DROP TABLE papers;

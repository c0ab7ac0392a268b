-- Up Migration
-- A marking of one player: only what differs from the marking for everybody (the one without a player).

ALTER TABLE markings ADD COLUMN player_id uuid REFERENCES players ON DELETE CASCADE;
CREATE UNIQUE INDEX one_variant_for_each_player ON markings (part_id, player_id) WHERE player_id IS NOT NULL;

-- Down Migration
DELETE FROM markings WHERE player_id IS NOT NULL;
ALTER TABLE markings DROP COLUMN player_id;

-- Up Migration
-- The shelf is read a page at a time, the latest pieces first.

CREATE INDEX pieces_in_order ON pieces (studio_id, created_at DESC, title, id) WHERE removed_at IS NULL;
CREATE INDEX markings_by_part ON markings (part_id);

-- Down Migration
DROP INDEX markings_by_part;
DROP INDEX pieces_in_order;

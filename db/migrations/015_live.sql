-- Up Migration
-- Who looks at a part is told at once what others do there: a word on the channel `omaggio`, after which they look themselves.

CREATE FUNCTION tell(studio uuid, part uuid, what text) RETURNS void LANGUAGE sql AS $$
  SELECT pg_notify('omaggio', json_build_object('studio', studio, 'part', part, 'what', what)::text);
$$;

CREATE FUNCTION tell_of_marks() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM tell(studio_id, part_id, 'news') FROM (SELECT DISTINCT made.studio_id, part_id FROM made JOIN markings ON markings.id = marking_id) AS parts;
  RETURN NULL;
END $$;
CREATE TRIGGER tell_of_marks AFTER INSERT ON change_sets REFERENCING NEW TABLE AS made FOR EACH STATEMENT EXECUTE FUNCTION tell_of_marks();

CREATE FUNCTION tell_of_deeds() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM tell(NEW.studio_id, NEW.part_id, 'news');
  RETURN NULL;
END $$;
CREATE TRIGGER tell_of_deeds AFTER INSERT ON part_deeds FOR EACH ROW EXECUTE FUNCTION tell_of_deeds();

CREATE FUNCTION tell_of_part() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM tell(NEW.studio_id, NEW.id, 'news');
  RETURN NULL;
END $$;
CREATE TRIGGER tell_of_part AFTER UPDATE OF music ON parts FOR EACH ROW EXECUTE FUNCTION tell_of_part();

CREATE FUNCTION tell_of_piece() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM tell(OLD.studio_id, parts.id, 'news') FROM parts WHERE piece_id = OLD.id;
  RETURN NULL;
END $$;
CREATE TRIGGER tell_of_piece AFTER UPDATE OF removed_at ON pieces FOR EACH ROW EXECUTE FUNCTION tell_of_piece();

CREATE INDEX part_deeds_by_sequence ON part_deeds (part_id, sequence);

-- Down Migration
DROP INDEX part_deeds_by_sequence;
DROP TRIGGER tell_of_piece ON pieces;
DROP TRIGGER tell_of_part ON parts;
DROP TRIGGER tell_of_deeds ON part_deeds;
DROP TRIGGER tell_of_marks ON change_sets;
DROP FUNCTION tell_of_piece(), tell_of_part(), tell_of_deeds(), tell_of_marks(), tell(uuid, uuid, text);

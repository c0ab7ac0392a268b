-- Up Migration
-- What is searched for is found with and without its accents, in capitals or not: "etude" finds "Étude".

CREATE FUNCTION search_form(words text) RETURNS text LANGUAGE sql IMMUTABLE PARALLEL SAFE
  RETURN lower(regexp_replace(normalize(words, NFD), '[\u0300-\u036F]', '', 'g'));

-- Down Migration
DROP FUNCTION search_form(text);

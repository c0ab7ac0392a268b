-- Up Migration
-- Titles in the order in which people look for them: no. 9 before no. 10, whatever the case and the accents.

CREATE COLLATION natural_order (provider = icu, locale = 'und-u-kn-true');

-- Down Migration
DROP COLLATION natural_order;

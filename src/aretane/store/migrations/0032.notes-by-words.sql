-- depends: 0031.matches-by-work
-- Notes as a column, so that a moment is found by its words without reading every fact.
ALTER TABLE fact
  ADD COLUMN note VARCHAR(2000) CHARACTER SET utf8mb4 AS (LEFT(JSON_VALUE(document, '$.note'), 2000)) PERSISTENT,
  ADD INDEX noted (note(60));

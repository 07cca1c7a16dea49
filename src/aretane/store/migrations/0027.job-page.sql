-- depends: 0026.uploads
-- Which page asked: each gets its turn, and of its questions the newest first.
ALTER TABLE job ADD COLUMN page VARCHAR(36) CHARACTER SET ascii NOT NULL DEFAULT '';

-- depends: 0041.attempts
-- Tables that somebody kept: a layout with what was meant on it, its name, tags and a note.
CREATE TABLE kept_table (
  id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
  club_id INT UNSIGNED NOT NULL,
  name VARCHAR(160) NOT NULL,
  tags VARCHAR(300) NOT NULL,
  note VARCHAR(2000) NOT NULL,
  discipline VARCHAR(20) NOT NULL,
  document JSON NOT NULL,
  kept_at DATETIME(3) NOT NULL,
  INDEX by_club (club_id, kept_at)
);

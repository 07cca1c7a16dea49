-- depends: 0004.create-recording
-- One reviewed match. What was seen of it is in `fact`; `last_change` is its newest entry in the log.
CREATE TABLE game (
  id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
  club_id INT UNSIGNED NOT NULL,
  author_id INT UNSIGNED NOT NULL,
  created_at DATETIME(3) NOT NULL,
  last_change BIGINT UNSIGNED NOT NULL DEFAULT 0,
  FOREIGN KEY (club_id) REFERENCES club (id),
  FOREIGN KEY (author_id) REFERENCES author (id)
);

-- depends: 0003.create-player
-- A recording is what its bytes are: the content hash is its identity within a club.
CREATE TABLE recording (
  club_id INT UNSIGNED NOT NULL,
  sha256 CHAR(64) CHARACTER SET ascii NOT NULL,
  author_id INT UNSIGNED NOT NULL,
  name VARCHAR(300) NOT NULL,
  added_at DATETIME(3) NOT NULL,
  bytes BIGINT UNSIGNED NOT NULL,
  seen_by VARCHAR(500) NOT NULL DEFAULT '',
  probe JSON NOT NULL,
  frame_times LONGBLOB NOT NULL,
  PRIMARY KEY (club_id, sha256),
  FOREIGN KEY (club_id) REFERENCES club (id),
  FOREIGN KEY (author_id) REFERENCES author (id)
);

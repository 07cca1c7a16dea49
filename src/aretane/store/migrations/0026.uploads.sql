-- depends: 0025.readings-without-state
-- Recordings on their way: room for `size` bytes is set aside; `sha256` is what it became once it has arrived.
CREATE TABLE upload (
  id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
  club_id INT UNSIGNED NOT NULL,
  author_id INT UNSIGNED NOT NULL,
  size BIGINT UNSIGNED NOT NULL,
  sha256 CHAR(64) CHARACTER SET ascii NULL,
  begun_at DATETIME(3) NOT NULL,
  FOREIGN KEY (club_id) REFERENCES club (id),
  FOREIGN KEY (author_id) REFERENCES author (id)
);

-- depends: 0014.scope-answers
-- Append-only: one entry an operation. `home` is what a screen shows as one, a match for instance; `operation` the
-- client's own id of the change, so that re-sending it does nothing.
CREATE TABLE change_entry (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  club_id INT UNSIGNED NOT NULL,
  author_id INT UNSIGNED NOT NULL,
  home CHAR(36) CHARACTER SET ascii NOT NULL,
  operation CHAR(36) CHARACTER SET ascii NOT NULL,
  client CHAR(36) CHARACTER SET ascii NOT NULL,
  made_at DATETIME(3) NOT NULL,
  kind VARCHAR(10) NOT NULL,
  label VARCHAR(200) NOT NULL,
  reverses BIGINT UNSIGNED NULL,
  reversed_by BIGINT UNSIGNED NULL,
  UNIQUE (club_id, operation),
  INDEX by_home (home, id),
  FOREIGN KEY (club_id) REFERENCES club (id),
  FOREIGN KEY (author_id) REFERENCES author (id)
);

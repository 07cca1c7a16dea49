-- depends: 0020.keep-deleted-games
-- Long work: what is to be done (kind and subject, once a club), by whom, and how far it is. `heartbeat` tells whether
-- somebody still works on it, `asked_at` whether somebody still looks; `kept` work goes on when nobody does.
CREATE TABLE job (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  club_id INT UNSIGNED NOT NULL,
  author_id INT UNSIGNED NOT NULL,
  kind VARCHAR(40) CHARACTER SET ascii NOT NULL,
  subject VARCHAR(80) CHARACTER SET ascii NOT NULL,
  arguments LONGTEXT NOT NULL,
  kept BOOLEAN NOT NULL,
  state VARCHAR(12) CHARACTER SET ascii NOT NULL,
  progress DOUBLE NOT NULL DEFAULT 0,
  said VARCHAR(500) NOT NULL DEFAULT '',
  worker VARCHAR(80) CHARACTER SET ascii NULL,
  deaths INT UNSIGNED NOT NULL DEFAULT 0,
  heartbeat DATETIME(3) NOT NULL,
  asked_at DATETIME(3) NOT NULL,
  UNIQUE KEY what (club_id, kind, subject),
  INDEX to_do (state, kept, id),
  FOREIGN KEY (club_id) REFERENCES club (id),
  FOREIGN KEY (author_id) REFERENCES author (id)
);

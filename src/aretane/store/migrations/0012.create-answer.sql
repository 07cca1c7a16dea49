-- depends: 0011.add-difficulty
-- Derived: what was worked out for a layout and two hands, by the hash of everything that it depends on. `heartbeat`
-- tells whether somebody still works on it, `asked_at` whether somebody still looks.
CREATE TABLE answer (
  hash CHAR(64) CHARACTER SET ascii NOT NULL PRIMARY KEY,
  club_id INT UNSIGNED NOT NULL,
  state VARCHAR(10) NOT NULL,
  progress DOUBLE NOT NULL DEFAULT 0,
  said VARCHAR(500) NOT NULL DEFAULT '',
  body LONGTEXT NOT NULL,
  heartbeat DATETIME(3) NOT NULL,
  asked_at DATETIME(3) NOT NULL,
  INDEX by_age (asked_at),
  FOREIGN KEY (club_id) REFERENCES club (id)
);

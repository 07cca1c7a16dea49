-- depends: 0009.add-opening
-- A recording that is being read, or has been: what was asked, how far it has come, what was found, and the coach's
-- corrections of it, which are kept apart from what was found.
CREATE TABLE reading (
  id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
  club_id INT UNSIGNED NOT NULL,
  game_id CHAR(36) CHARACTER SET ascii NOT NULL,
  author_id INT UNSIGNED NOT NULL,
  created_at DATETIME(3) NOT NULL,
  heartbeat DATETIME(3) NOT NULL,
  state VARCHAR(12) NOT NULL,
  reached DOUBLE NOT NULL DEFAULT 0,
  said VARCHAR(500) NOT NULL DEFAULT '',
  wanted JSON NOT NULL,
  found JSON NOT NULL,
  corrections JSON NOT NULL,
  UNIQUE KEY one_a_game (game_id),
  FOREIGN KEY (game_id) REFERENCES game (id) ON DELETE CASCADE,
  FOREIGN KEY (club_id) REFERENCES club (id),
  FOREIGN KEY (author_id) REFERENCES author (id)
);

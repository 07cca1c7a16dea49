-- depends: 0047.ended
-- A shot asked as a question: the table before it, what comes hidden.
CREATE TABLE riddle (
  id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
  club_id INT UNSIGNED NOT NULL,
  game_id CHAR(36) CHARACTER SET ascii NOT NULL,
  shot_id CHAR(36) CHARACTER SET ascii NOT NULL,
  made_at DATETIME(3) NOT NULL,
  INDEX by_club (club_id, made_at),
  FOREIGN KEY (club_id) REFERENCES club (id),
  FOREIGN KEY (game_id) REFERENCES game (id) ON DELETE CASCADE
);

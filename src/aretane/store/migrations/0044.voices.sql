-- depends: 0043.more-circumstances
-- What a coach said over a moment: short, so it lies with the facts and goes into every backup.
CREATE TABLE voice (
  club_id INT UNSIGNED NOT NULL,
  game_id CHAR(36) CHARACTER SET ascii NOT NULL,
  shot_id CHAR(36) CHARACTER SET ascii NOT NULL,
  seconds DOUBLE NOT NULL,
  sort VARCHAR(40) CHARACTER SET ascii NOT NULL,
  sound MEDIUMBLOB NOT NULL,
  PRIMARY KEY (game_id, shot_id),
  FOREIGN KEY (club_id) REFERENCES club (id),
  FOREIGN KEY (game_id) REFERENCES game (id) ON DELETE CASCADE
);

-- depends: 0044.voices
-- What a player is going to practise, day by day.
CREATE TABLE planned (
  id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
  club_id INT UNSIGNED NOT NULL,
  player_id INT UNSIGNED NOT NULL,
  begins DATETIME NOT NULL,
  minutes SMALLINT UNSIGNED NOT NULL,
  goal VARCHAR(200) NOT NULL DEFAULT '',
  note VARCHAR(2000) NOT NULL DEFAULT '',
  exercises JSON NOT NULL,
  INDEX by_player (club_id, player_id, begins),
  FOREIGN KEY (club_id) REFERENCES club (id)
);

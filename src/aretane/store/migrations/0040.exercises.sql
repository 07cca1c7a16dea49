-- depends: 0039.one-player
-- Exercises: a layout, what is to be done, and where it comes from; `chance` what was expected of the hand it was made for.
CREATE TABLE exercise (
  id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
  club_id INT UNSIGNED NOT NULL,
  title VARCHAR(160) NOT NULL,
  game_id CHAR(36) CHARACTER SET ascii NULL,
  shot_id CHAR(36) CHARACTER SET ascii NULL,
  layout JSON NOT NULL,
  ball VARCHAR(12) NOT NULL,
  pocket VARCHAR(12) NOT NULL,
  chance DOUBLE NULL,
  made_at DATETIME(3) NOT NULL,
  INDEX by_club (club_id, made_at)
);

-- depends: 0040.exercises
-- Attempts at an exercise, each with the id that the device gave it: one that is sent twice counts once.
CREATE TABLE attempt (
  id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
  exercise_id CHAR(36) CHARACTER SET ascii NOT NULL,
  player_id INT UNSIGNED NOT NULL,
  result VARCHAR(10) NOT NULL,
  zone BOOLEAN NULL,
  tried_at DATETIME(3) NOT NULL,
  INDEX by_day (exercise_id, player_id, tried_at),
  FOREIGN KEY (exercise_id) REFERENCES exercise (id) ON DELETE CASCADE
);

-- depends: 0035.circumstances
-- What the ledger booked for each stroke, as figures add it up; `model` marks by which model.
CREATE TABLE booked (
  game_id CHAR(36) CHARACTER SET ascii NOT NULL,
  shot_id CHAR(36) CHARACTER SET ascii NOT NULL,
  model SMALLINT UNSIGNED NOT NULL,
  promised DOUBLE NULL,
  decision DOUBLE NULL,
  potting DOUBLE NULL,
  position DOUBLE NULL,
  luck DOUBLE NULL,
  PRIMARY KEY (game_id, shot_id),
  FOREIGN KEY (game_id) REFERENCES game (id) ON DELETE CASCADE
);

-- depends: 0035.circumstances
-- What the ledger booked for each stroke, as figures add it up; `model` marks by which model. Questions kept by name.
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
CREATE TABLE question (
  club_id INT UNSIGNED NOT NULL,
  author_id INT UNSIGNED NOT NULL,
  name VARCHAR(120) NOT NULL,
  asked VARCHAR(1000) NOT NULL,
  PRIMARY KEY (club_id, author_id, name)
);

-- depends: 0005.create-game
-- What was seen or said, one document a row: the match itself, its racks (parent: the match) and its
-- shots (parent: the rack), in the order of `seat`. `document` is an object of the match format.
CREATE TABLE fact (
  game_id CHAR(36) CHARACTER SET ascii NOT NULL,
  kind ENUM('match', 'rack', 'shot') NOT NULL,
  id CHAR(36) CHARACTER SET ascii NOT NULL,
  parent CHAR(36) CHARACTER SET ascii NOT NULL,
  seat DOUBLE NOT NULL,
  document JSON NOT NULL,
  changed_in BIGINT UNSIGNED NOT NULL,
  changed_by CHAR(36) CHARACTER SET ascii NOT NULL,
  PRIMARY KEY (game_id, kind, id),
  FOREIGN KEY (game_id) REFERENCES game (id) ON DELETE CASCADE
);

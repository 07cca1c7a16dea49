-- depends: 0006.create-fact
-- Append-only. `operation` is the client's own id of the change, so that re-sending it does nothing.
-- `facts` maps "kind:id" to the row before and after; null stands for "was not there".
CREATE TABLE change_log (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  game_id CHAR(36) CHARACTER SET ascii NOT NULL,
  operation CHAR(36) CHARACTER SET ascii NOT NULL UNIQUE,
  client CHAR(36) CHARACTER SET ascii NOT NULL,
  author_id INT UNSIGNED NOT NULL,
  made_at DATETIME(3) NOT NULL,
  kind ENUM('edit', 'undo', 'redo') NOT NULL,
  label VARCHAR(200) NOT NULL,
  facts JSON NOT NULL,
  reverses BIGINT UNSIGNED NULL,
  reversed_by BIGINT UNSIGNED NULL,
  INDEX by_game (game_id, id),
  FOREIGN KEY (game_id) REFERENCES game (id) ON DELETE CASCADE,
  FOREIGN KEY (author_id) REFERENCES author (id)
);

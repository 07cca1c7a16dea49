-- depends: 0033.ledgers
-- Every entry's judgement, by the hash of all that it depends on.
CREATE TABLE judgement (
  game_id CHAR(36) CHARACTER SET ascii NOT NULL,
  care VARCHAR(12) CHARACTER SET ascii NOT NULL,
  hash CHAR(64) CHARACTER SET ascii NOT NULL,
  body LONGTEXT NOT NULL,
  PRIMARY KEY (game_id, care, hash),
  FOREIGN KEY (game_id) REFERENCES game (id) ON DELETE CASCADE
);

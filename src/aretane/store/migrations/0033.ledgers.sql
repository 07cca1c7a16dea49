-- depends: 0032.notes-by-words
-- Where the racks of a match were won and lost. `hands` are those that it was judged with, `stamp` tells from which
-- facts and by which model.
CREATE TABLE ledger (
  club_id INT UNSIGNED NOT NULL,
  game_id CHAR(36) CHARACTER SET ascii NOT NULL,
  care VARCHAR(12) CHARACTER SET ascii NOT NULL,
  hands LONGTEXT NOT NULL,
  stamp CHAR(64) CHARACTER SET ascii NOT NULL DEFAULT '',
  body LONGTEXT NOT NULL DEFAULT '{}',
  PRIMARY KEY (game_id, care),
  FOREIGN KEY (club_id) REFERENCES club (id),
  FOREIGN KEY (game_id) REFERENCES game (id) ON DELETE CASCADE
);

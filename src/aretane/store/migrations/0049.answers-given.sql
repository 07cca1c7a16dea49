-- depends: 0048.questions-asked
-- What people would have played; who answers again changes his answer.
CREATE TABLE riddle_answer (
  riddle_id CHAR(36) CHARACTER SET ascii NOT NULL,
  name VARCHAR(100) NOT NULL,
  ball VARCHAR(12) NULL,
  pocket VARCHAR(12) NULL,
  intent VARCHAR(10) CHARACTER SET ascii NOT NULL,
  place JSON NULL,
  felt TINYINT UNSIGNED NULL,
  given_at DATETIME(3) NOT NULL,
  PRIMARY KEY (riddle_id, name),
  FOREIGN KEY (riddle_id) REFERENCES riddle (id) ON DELETE CASCADE
);

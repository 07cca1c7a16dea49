-- depends: 0001.create-club
CREATE TABLE author (
  id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  club_id INT UNSIGNED NOT NULL,
  name VARCHAR(200) NOT NULL,
  UNIQUE (club_id, name),
  FOREIGN KEY (club_id) REFERENCES club (id)
);

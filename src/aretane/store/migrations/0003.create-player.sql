-- depends: 0002.create-author
CREATE TABLE player (
  id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  club_id INT UNSIGNED NOT NULL,
  name VARCHAR(200) NOT NULL,
  UNIQUE (club_id, name),
  FOREIGN KEY (club_id) REFERENCES club (id)
);

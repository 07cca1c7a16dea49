-- depends: 0036.booked
-- Questions kept by name, each author's own.
CREATE TABLE question (
  club_id INT UNSIGNED NOT NULL,
  author_id INT UNSIGNED NOT NULL,
  name VARCHAR(120) NOT NULL,
  asked VARCHAR(1000) NOT NULL,
  PRIMARY KEY (club_id, author_id, name)
);

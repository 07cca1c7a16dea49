-- depends: 0037.questions
-- Counts from a sheet of paper, without layouts.
CREATE TABLE paper (
  id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  club_id INT UNSIGNED NOT NULL,
  player_id INT UNSIGNED NOT NULL,
  opponent_id INT UNSIGNED NULL,
  played_on DATE NOT NULL,
  discipline VARCHAR(20) NOT NULL,
  session VARCHAR(20) NOT NULL,
  measure VARCHAR(20) NOT NULL,
  n INT UNSIGNED NOT NULL,
  good INT UNSIGNED NOT NULL,
  UNIQUE KEY sheet (club_id, player_id, played_on, discipline, session, measure, opponent_id)
);

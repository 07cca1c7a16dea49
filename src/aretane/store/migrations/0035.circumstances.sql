-- depends: 0034.judgements
-- What figures are told apart by: circumstances of each stroke, day, table, opponent.
ALTER TABLE shot_fact
  ADD COLUMN around JSON NULL,
  ADD COLUMN opponent_id INT UNSIGNED NULL,
  ADD COLUMN played_on DATE NULL,
  ADD COLUMN played_at VARCHAR(20) NULL,
  ADD COLUMN tip VARCHAR(10) AS (JSON_VALUE(around, '$.tip')) PERSISTENT,
  ADD COLUMN pace VARCHAR(10) AS (JSON_VALUE(around, '$.pace')) PERSISTENT,
  ADD COLUMN rails TINYINT AS (JSON_VALUE(around, '$.rails')) PERSISTENT,
  ADD COLUMN waited TINYINT AS (JSON_VALUE(around, '$.waited') IN ('true', '1')) PERSISTENT,
  ADD COLUMN seconds DOUBLE AS (JSON_VALUE(around, '$.seconds')) PERSISTENT,
  ADD COLUMN standing VARCHAR(10) AS (JSON_VALUE(around, '$.standing')) PERSISTENT,
  ADD COLUMN held TINYINT AS (JSON_VALUE(around, '$.held') IN ('true', '1')) PERSISTENT,
  ADD COLUMN hidden TINYINT AS (JSON_VALUE(around, '$.hidden') IN ('true', '1')) PERSISTENT,
  ADD COLUMN converted TINYINT AS (JSON_VALUE(around, '$.converted') IN ('true', '1')) PERSISTENT,
  ADD COLUMN won TINYINT AS (JSON_VALUE(around, '$.won') IN ('true', '1')) PERSISTENT,
  ADD COLUMN likely TINYINT UNSIGNED AS (JSON_VALUE(around, '$.likely')) PERSISTENT,
  ADD COLUMN next_way DOUBLE AS (JSON_VALUE(around, '$.next_way')) PERSISTENT,
  ADD COLUMN way TINYINT UNSIGNED AS
    (LEAST(7, FLOOR((cue_distance + pocket_distance) / 0.5))) PERSISTENT,
  ADD COLUMN cut TINYINT UNSIGNED AS (LEAST(5, FLOOR(DEGREES(cut_angle) / 15))) PERSISTENT,
  ADD INDEX alike (club_id, tried, cut_angle, cue_distance, pocket_distance, open, next_way, pocket, made),
  ADD INDEX asked (club_id, session, player_id, discipline, played_on, opponent_id, game_id, tried, made, likely,
    cut, way, pocket, kind, tip, pace, rails, waited, standing, played_at, intent_source),
  ADD INDEX stopped (club_id, session, player_id, discipline, played_on, opponent_id, game_id, tip, pace, rails,
    way, cut, waited, standing, played_at, target_source, along, across, distance),
  ADD INDEX came (club_id, session, player_id, discipline, played_on, opponent_id, game_id, tip, pace, waited, standing,
    played_at, kind, foul, held, hidden, converted, won, seconds);

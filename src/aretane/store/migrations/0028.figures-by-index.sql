-- depends: 0027.job-page
-- What percentages count, so that they are added up along one index; parts of JSON as columns made by the database.
ALTER TABLE shot_fact
  ADD COLUMN cell TINYINT UNSIGNED NULL,
  ADD COLUMN apart DOUBLE NULL,
  ADD COLUMN created_at DATETIME(3) NULL,
  ADD COLUMN along DOUBLE AS
    (IF(JSON_VALUE(error, '$.assumed') IN ('false', '0'), JSON_VALUE(error, '$.along'), NULL)) PERSISTENT,
  ADD COLUMN across DOUBLE AS
    (IF(JSON_VALUE(error, '$.assumed') IN ('false', '0'), JSON_VALUE(error, '$.across'), NULL)) PERSISTENT,
  ADD COLUMN distance DOUBLE AS (JSON_VALUE(error, '$.distance')) PERSISTENT,
  ADD COLUMN break_balls TINYINT AS (JSON_VALUE(opening, '$.balls')) PERSISTENT,
  ADD COLUMN break_scratch TINYINT AS (JSON_VALUE(opening, '$.scratch') IN ('true', '1')) PERSISTENT,
  ADD COLUMN break_seen VARCHAR(60) AS (JSON_VALUE(opening, '$.next_visible')) PERSISTENT,
  ADD COLUMN break_won TINYINT AS (JSON_VALUE(opening, '$.won') IN ('true', '1')) PERSISTENT,
  ADD COLUMN break_place VARCHAR(60) AS (JSON_VALUE(opening, '$.place')) PERSISTENT,
  ADD COLUMN break_power VARCHAR(60) AS (JSON_VALUE(opening, '$.power')) PERSISTENT,
  ADD COLUMN break_fullness VARCHAR(60) AS (JSON_VALUE(opening, '$.fullness')) PERSISTENT,
  ADD COLUMN break_type VARCHAR(60) AS (JSON_VALUE(opening, '$.type')) PERSISTENT,
  ADD COLUMN break_opened VARCHAR(60) AS (JSON_VALUE(opening, '$.opened')) PERSISTENT,
  ADD COLUMN break_leaves VARCHAR(60) AS (JSON_VALUE(opening, '$.leaves')) PERSISTENT,
  ADD INDEX counted (club_id, session, discipline, player_id, target_source, tried, cell, pocket, kind, made,
    along, across, distance),
  ADD INDEX newest (club_id, session, created_at, game_id, rack, shot, discipline, player_id, target_source,
    distance),
  ADD INDEX breaks (club_id, session, break_balls, discipline, player_id, target_source, break_place, break_power,
    break_fullness, break_type, break_opened, break_leaves, break_scratch, break_seen, break_won),
  ADD INDEX felt (club_id, apart);

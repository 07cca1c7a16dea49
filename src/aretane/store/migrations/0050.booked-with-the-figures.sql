-- depends: 0049.answers-given
-- What the ledger booked stands with the figures too (a join for each stroke took longer than the question); where the
-- ball reached its pocket. `booked` stays what is known, for rows that are written anew.
ALTER TABLE shot_fact
  ADD COLUMN promised DOUBLE NULL,
  ADD COLUMN decision DOUBLE NULL,
  ADD COLUMN potting DOUBLE NULL,
  ADD COLUMN position DOUBLE NULL,
  ADD COLUMN luck DOUBLE NULL,
  ADD COLUMN mouth VARCHAR(12) AS (CASE result WHEN 'missed-thick' THEN 'missed thick'
    WHEN 'missed-thin' THEN 'missed thin' WHEN 'missed-jaw' THEN 'in the jaws'
    ELSE JSON_VALUE(around, '$.entered') END) PERSISTENT,
  DROP INDEX asked,
  DROP INDEX stops,
  ADD INDEX asked (club_id, session, player_id, discipline, played_on, opponent_id, game_id, tried, made, likely,
    cut, way, pocket, kind, tip, pace, rails, waited, standing, played_at, intent_source, reach, cueing, stake, phase,
    took, thick, missed_band, mouth),
  ADD INDEX stops (club_id, session, player_id, discipline, played_on, opponent_id, game_id, tip, pace, rails,
    way, cut, waited, standing, played_at, target_source, along, across, distance, travel, reach, cueing, stake, phase,
    took, off_band, stopped, rack, shot, mouth),
  ADD INDEX judged (club_id, session, player_id, discipline, played_on, opponent_id, game_id, promised, decision,
    potting, position, luck, won, tip, pace, waited, standing, played_at, kind, stake, phase, took, cut, way, rails,
    reach, cueing);

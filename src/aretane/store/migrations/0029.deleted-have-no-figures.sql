-- depends: 0028.figures-by-index
-- A deleted match has no derived rows; they are made again when it is had back.
DELETE shot_fact FROM shot_fact JOIN game ON game.id = shot_fact.game_id WHERE game.deleted_at IS NOT NULL;

-- depends: 0010.create-reading
-- How much error of aim a pot allows, and how far the cue ball ran: what a player's hand is estimated from.
ALTER TABLE shot_fact ADD COLUMN tolerance DOUBLE NULL, ADD COLUMN travel DOUBLE NULL;

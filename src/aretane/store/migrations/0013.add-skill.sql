-- depends: 0012.create-answer
-- What a shot tells of the player's hand: the window it left, what the stroke asked, a kick or lag that came off.
ALTER TABLE shot_fact ADD COLUMN skill JSON NULL;

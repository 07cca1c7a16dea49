-- depends: 0008.create-shot-fact
-- The record of a break, where the stroke was one.
ALTER TABLE shot_fact ADD COLUMN opening JSON NULL;

-- depends: 0013.add-skill
-- Two clubs may ask the same question; each has its own answer.
ALTER TABLE answer DROP PRIMARY KEY, ADD PRIMARY KEY (club_id, hash);

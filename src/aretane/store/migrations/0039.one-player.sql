-- depends: 0038.paper
-- A player who goes under two names: the one that this name stands for.
ALTER TABLE player ADD COLUMN joined_to INT UNSIGNED NULL;

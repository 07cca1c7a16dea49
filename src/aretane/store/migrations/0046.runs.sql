-- depends: 0045.practice-plan
-- Whole layouts and open runs: how many balls were made, and why it ended there. `task`: pot, layout or run.
ALTER TABLE exercise
  ADD COLUMN task VARCHAR(10) CHARACTER SET ascii NOT NULL DEFAULT 'pot',
  MODIFY COLUMN ball VARCHAR(12) NULL,
  MODIFY COLUMN pocket VARCHAR(12) NULL;

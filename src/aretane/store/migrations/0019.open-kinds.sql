-- depends: 0018.drop-change-log
-- Who changed a fact last stands in the log; which kinds there are is not the column's business.
ALTER TABLE fact DROP COLUMN changed_in, DROP COLUMN changed_by, MODIFY kind VARCHAR(20) NOT NULL;

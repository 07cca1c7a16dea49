-- depends: 0023.readings-are-jobs
-- Columns that are the job's now stay for the release before; what is written now leaves them alone.
ALTER TABLE answer
  MODIFY state VARCHAR(10) NOT NULL DEFAULT 'stopped',
  MODIFY heartbeat DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  MODIFY asked_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3);

-- depends: 0024.answers-without-state
ALTER TABLE reading
  MODIFY state VARCHAR(12) NOT NULL DEFAULT 'stopped',
  MODIFY heartbeat DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3);

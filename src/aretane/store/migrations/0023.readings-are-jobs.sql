-- depends: 0022.answers-are-jobs
-- What a reading's state was is its job's; one that ran is to be gone on with.
INSERT INTO job (club_id, author_id, kind, subject, arguments, kept, state, progress, said, heartbeat, asked_at)
SELECT club_id, author_id, 'reading', id, '{}', TRUE, IF(state = 'running', 'waiting', state), 0, said, heartbeat,
  heartbeat FROM reading;

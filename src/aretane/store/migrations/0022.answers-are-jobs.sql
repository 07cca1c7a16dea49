-- depends: 0021.create-job
-- What an answer's state was is its job's.
INSERT INTO job (club_id, author_id, kind, subject, arguments, kept, state, progress, said, heartbeat, asked_at)
SELECT club_id, (SELECT MIN(id) FROM author WHERE author.club_id = answer.club_id), 'choices', hash, '{}', FALSE,
  IF(state = 'running', 'stopped', state), progress, said, heartbeat, asked_at FROM answer;

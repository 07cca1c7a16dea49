-- depends: 0029.deleted-have-no-figures
ALTER TABLE game ADD INDEX by_day (club_id, deleted_at, created_at);

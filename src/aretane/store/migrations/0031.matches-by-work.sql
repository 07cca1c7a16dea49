-- depends: 0030.matches-by-day
ALTER TABLE game ADD INDEX by_work (club_id, deleted_at, last_change), DROP INDEX by_day;

-- depends: 0017.carry-log-over
DROP TABLE change_log;

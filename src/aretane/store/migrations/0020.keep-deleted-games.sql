-- depends: 0019.open-kinds
-- A deleted match can be had back for 30 days.
ALTER TABLE game ADD COLUMN deleted_at DATETIME(3) NULL;

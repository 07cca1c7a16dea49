-- depends: 0015.create-change-entry
-- What an entry did to one subject: its changed fields before and after; null: it was not there.
CREATE TABLE change_part (
  entry_id BIGINT UNSIGNED NOT NULL,
  subject VARCHAR(20) NOT NULL,
  subject_id CHAR(36) CHARACTER SET ascii NOT NULL,
  before_ JSON NULL,
  after_ JSON NULL,
  PRIMARY KEY (entry_id, subject, subject_id),
  FOREIGN KEY (entry_id) REFERENCES change_entry (id)
);

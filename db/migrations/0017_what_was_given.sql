-- Up Migration

-- What a listener gave (answers, minutes, the last one), for everybody of the panel: read from the index
-- alone, since somebody who listens for years leaves answers in every corner of the table.
CREATE INDEX answer_given ON answer (listener_id) INCLUDE (duration_s, answered_at);

-- Down Migration

DROP INDEX answer_given;

-- Up Migration

-- A studio's comparisons, newest first.
CREATE INDEX comparison_owner ON comparison (owner_id, created_at DESC) WHERE deleted_at IS NULL;
-- Answers of a sitting, in the order of its trials; foreign keys from trials look here too.
CREATE INDEX answer_sitting ON answer (sitting_id, seat, position);

-- Down Migration

DROP INDEX comparison_owner, answer_sitting;

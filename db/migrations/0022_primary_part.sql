-- Up Migration

-- The one part of a sitting that is judged by itself; null in those that were sealed without one, whose parts were to
-- be read alone.
ALTER TABLE sitting ADD COLUMN primary_part integer CHECK (primary_part >= 1);
UPDATE sitting SET primary_part = 1 WHERE state = 'draft';
ALTER TABLE sitting ADD CHECK (state <> 'draft' OR primary_part IS NOT NULL);

-- Down Migration

ALTER TABLE sitting DROP COLUMN primary_part;

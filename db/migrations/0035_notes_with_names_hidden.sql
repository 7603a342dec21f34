-- Up Migration

-- Whether whoever noted it saw which chain sounded.
ALTER TABLE clip_note ADD COLUMN names_seen boolean NOT NULL DEFAULT true;

-- Down Migration

ALTER TABLE clip_note DROP COLUMN names_seen;

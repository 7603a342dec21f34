-- Up Migration

-- Clips that an older version pictured, for picturing them again.
CREATE INDEX clip_pictures_version ON clip ((coalesce((pictures->>'version')::int, 0)));

-- Down Migration

DROP INDEX clip_pictures_version;

-- Up Migration

-- Clips may be matched by a test sound that each chain recorded in a take of its own.
ALTER TABLE clip_set
  DROP CONSTRAINT clip_set_method_check,
  ADD CONSTRAINT clip_set_method_check CHECK (method IN ('loudness', 'rms', 'tone', 'hand', 'gain', 'test'));

-- Down Migration

-- The older shape knows levels set by hand, which these are, too.
UPDATE clip_set SET method = 'hand' WHERE method = 'test';
ALTER TABLE clip_set
  DROP CONSTRAINT clip_set_method_check,
  ADD CONSTRAINT clip_set_method_check CHECK (method IN ('loudness', 'rms', 'tone', 'hand', 'gain'));

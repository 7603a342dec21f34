-- Up Migration

-- A passage may be cut from the takes of a step of the test programme, too.
ALTER TABLE passage
  ADD COLUMN programme text NOT NULL DEFAULT 'performance' CHECK (length(programme) BETWEEN 1 AND 60),
  ADD COLUMN detail text NOT NULL DEFAULT '' CHECK (length(detail) <= 120);

-- Clips may stand to each other as at one gain.
ALTER TABLE clip_set
  DROP CONSTRAINT clip_set_method_check,
  ADD CONSTRAINT clip_set_method_check CHECK (method IN ('loudness', 'rms', 'tone', 'hand', 'gain'));

-- Down Migration

-- The older shape knows levels set by hand, which these are, too.
UPDATE clip_set SET method = 'hand' WHERE method = 'gain';
ALTER TABLE clip_set
  DROP CONSTRAINT clip_set_method_check,
  ADD CONSTRAINT clip_set_method_check CHECK (method IN ('loudness', 'rms', 'tone', 'hand'));
ALTER TABLE passage DROP COLUMN programme, DROP COLUMN detail;

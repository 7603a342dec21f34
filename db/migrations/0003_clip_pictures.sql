-- Up Migration

-- What the engineer looks at, never a listener: spectra of each matched clip, alone and against the reference.
ALTER TABLE clip
  ADD COLUMN before_rms_dbfs double precision,
  ADD COLUMN pictures jsonb;

-- Down Migration

ALTER TABLE clip DROP COLUMN pictures, DROP COLUMN before_rms_dbfs;

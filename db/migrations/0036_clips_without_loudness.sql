-- Up Migration

-- At one gain a quiet room stays as quiet as it is, too quiet to have a loudness.
ALTER TABLE clip ALTER COLUMN before_lufs DROP NOT NULL, ALTER COLUMN after_lufs DROP NOT NULL;

-- Down Migration

-- What has none is under the gate of the loudness measure.
UPDATE clip SET before_lufs = coalesce(before_lufs, -70), after_lufs = coalesce(after_lufs, -70);
ALTER TABLE clip ALTER COLUMN before_lufs SET NOT NULL, ALTER COLUMN after_lufs SET NOT NULL;

-- Up Migration

-- What the level is set by and practised on: a phrase of music, or of speech.
ALTER TABLE sitting ADD COLUMN training_sound text NOT NULL DEFAULT 'music' CHECK (training_sound IN ('music', 'speech'));
-- Two variants of each; sets that were made before have those of music only.
ALTER TABLE settling_clip DROP CONSTRAINT settling_clip_variant_check;
ALTER TABLE settling_clip ADD CONSTRAINT settling_clip_variant_check CHECK (variant BETWEEN 0 AND 3);

-- Down Migration

DELETE FROM settling_clip WHERE variant > 1;
ALTER TABLE settling_clip DROP CONSTRAINT settling_clip_variant_check;
ALTER TABLE settling_clip ADD CONSTRAINT settling_clip_variant_check CHECK (variant IN (0, 1));
ALTER TABLE sitting DROP COLUMN training_sound;

-- Up Migration

-- What copies are drawn from: 128 bits for each trial and each clip. Those of sittings before this were shorter;
-- they are drawn anew (122 bits), since nothing that was answered depends on them.
ALTER TABLE trial ADD COLUMN seed text CHECK (seed ~ '^[0-9a-f]{32}$');
UPDATE trial SET seed = replace(gen_random_uuid()::text, '-', '');
ALTER TABLE trial ALTER COLUMN seed SET NOT NULL;
ALTER TABLE trial_clip
  DROP COLUMN seed,
  ADD COLUMN seed text CHECK (seed ~ '^[0-9a-f]{32}$'),
  -- When the copy was sent first; an answer without it is marked.
  ADD COLUMN first_fetched_at timestamptz;
UPDATE trial_clip SET seed = replace(gen_random_uuid()::text, '-', '');
ALTER TABLE trial_clip ALTER COLUMN seed SET NOT NULL;

-- One for the pack and one for each of its clips, by the chain's id.
ALTER TABLE blind_pack DROP COLUMN seed, ADD COLUMN seeds jsonb;
UPDATE blind_pack SET seeds = jsonb_build_object('trial', replace(gen_random_uuid()::text, '-', ''),
  'clips', (SELECT jsonb_object_agg(chain, replace(gen_random_uuid()::text, '-', ''))
    FROM jsonb_object_keys(words) AS chain));
ALTER TABLE blind_pack ALTER COLUMN seeds SET NOT NULL;

ALTER TABLE answer
  -- Seconds from the answer before, or from the first fetching, by the bank's own clock; null before this was kept.
  ADD COLUMN server_s double precision CHECK (server_s >= 0),
  -- Whether some clip of its trial was never sent to the listener.
  ADD COLUMN unfetched boolean NOT NULL DEFAULT false;

-- Down Migration

ALTER TABLE answer DROP COLUMN server_s, DROP COLUMN unfetched;
ALTER TABLE blind_pack DROP COLUMN seeds, ADD COLUMN seed bigint NOT NULL DEFAULT 1;
ALTER TABLE blind_pack ALTER COLUMN seed DROP DEFAULT;
ALTER TABLE trial DROP COLUMN seed;
ALTER TABLE trial_clip DROP COLUMN first_fetched_at, DROP COLUMN seed, ADD COLUMN seed bigint NOT NULL DEFAULT 1;
ALTER TABLE trial_clip ALTER COLUMN seed DROP DEFAULT;

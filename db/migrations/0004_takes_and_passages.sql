-- Up Migration

-- Passages are cut from every take of their source. Without a source's name: the first source.
CREATE TABLE passage (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  position integer NOT NULL CHECK (position >= 0),
  source_name text CHECK (length(source_name) BETWEEN 1 AND 120),
  name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
  from_s double precision,
  to_s double precision,
  UNIQUE (id, comparison_id),
  CHECK ((from_s IS NULL) = (to_s IS NULL)),
  CHECK (from_s IS NULL OR (from_s >= 0 AND to_s > from_s))
);
CREATE INDEX passage_comparison ON passage (comparison_id, position);
INSERT INTO passage (comparison_id, position, name, from_s, to_s)
  SELECT id, 0, passage_name, passage_from_s, passage_to_s FROM comparison;
ALTER TABLE comparison
  DROP COLUMN passage_name, DROP COLUMN passage_from_s, DROP COLUMN passage_to_s;

ALTER TABLE take
  ADD COLUMN source_name text CHECK (length(source_name) BETWEEN 1 AND 120),
  -- The performance, or a step of the test programme ("detail": which angle, distance, switch).
  ADD COLUMN programme text NOT NULL DEFAULT 'performance',
  ADD COLUMN detail text NOT NULL DEFAULT '' CHECK (length(detail) <= 120),
  -- Which channels of the file it is; all of them when null.
  ADD COLUMN channels integer[] CHECK (array_length(channels, 1) BETWEEN 1 AND 2),
  -- The one clips are made of where a chain has several.
  ADD COLUMN picked boolean NOT NULL DEFAULT false,
  ADD COLUMN simulated boolean NOT NULL DEFAULT false,
  -- Delay, polarity and coherence against the reference take of its source.
  ADD COLUMN relation jsonb,
  -- The chain it had when that was deleted, for undoing.
  ADD COLUMN former_chain_id uuid REFERENCES chain ON DELETE SET NULL;
UPDATE take SET former_chain_id = chain.id FROM chain WHERE chain.former_take_id = take.id;
ALTER TABLE chain DROP COLUMN former_take_id;
DROP INDEX take_of_chain;
CREATE INDEX take_chain ON take (chain_id) WHERE chain_id IS NOT NULL;
DROP INDEX take_content;
CREATE UNIQUE INDEX take_content ON take (comparison_id, audio_id, coalesce(channels, '{}'))
  WHERE state = 'ready';
CREATE UNIQUE INDEX take_picked ON take (chain_id, coalesce(source_name, '')) WHERE picked;

-- A check that the engineer has looked at and decided to live with.
CREATE TABLE check_override (
  take_id uuid NOT NULL REFERENCES take ON DELETE CASCADE,
  check_name text NOT NULL CHECK (length(check_name) BETWEEN 1 AND 60),
  account_id uuid NOT NULL REFERENCES account ON DELETE CASCADE,
  reason text NOT NULL CHECK (length(reason) BETWEEN 1 AND 300),
  decided_at timestamptz NOT NULL,
  PRIMARY KEY (take_id, check_name)
);

-- Where a take lies in time for a passage, when its waveform does not tell.
CREATE TABLE take_placing (
  passage_id uuid NOT NULL REFERENCES passage ON DELETE CASCADE,
  take_id uuid NOT NULL REFERENCES take ON DELETE CASCADE,
  alignment text NOT NULL CHECK (alignment IN ('performance', 'onset', 'hand')),
  delay_ms double precision NOT NULL DEFAULT 0,
  PRIMARY KEY (passage_id, take_id)
);
INSERT INTO take_placing (passage_id, take_id, alignment, delay_ms)
  SELECT passage.id, take.id, alignment, hand_delay_ms
  FROM take JOIN passage USING (comparison_id) WHERE alignment <> 'performance';
ALTER TABLE take DROP COLUMN alignment, DROP COLUMN hand_delay_ms;

ALTER TABLE clip_set
  ADD COLUMN passage_id uuid,
  ADD COLUMN context text NOT NULL DEFAULT 'raw'
    CHECK (context IN ('raw', 'alike', 'tailored', 'mix', 'toned')),
  -- Settings of the context and of the method, as they were ordered.
  ADD COLUMN recipe jsonb NOT NULL DEFAULT '{}',
  DROP CONSTRAINT clip_set_method_check,
  ADD CONSTRAINT clip_set_method_check CHECK (method IN ('loudness', 'rms', 'tone', 'hand'));
UPDATE clip_set SET passage_id = passage.id FROM passage
  WHERE passage.comparison_id = clip_set.comparison_id;
ALTER TABLE clip_set
  ALTER COLUMN passage_id SET NOT NULL,
  ADD FOREIGN KEY (passage_id, comparison_id) REFERENCES passage (id, comparison_id);
-- Drift, blend, stereo image, what a tone match lifts.
ALTER TABLE clip ADD COLUMN details jsonb NOT NULL DEFAULT '{}';

-- How file names are read, as written when the upload began; archives are unpacked by a job.
ALTER TABLE upload
  ADD COLUMN pattern text NOT NULL DEFAULT '' CHECK (length(pattern) <= 200);
CREATE TABLE archive (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  audio_id bigint NOT NULL REFERENCES audio,
  file_name text NOT NULL,
  pattern text NOT NULL DEFAULT '',
  state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'ready', 'failed')),
  remark text,
  created_at timestamptz NOT NULL
);
CREATE INDEX archive_comparison ON archive (comparison_id);

-- The run sheet: what to record in which order, and what was really done.
CREATE TABLE run_line (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  day integer NOT NULL CHECK (day BETWEEN 1 AND 60),
  position integer NOT NULL CHECK (position >= 0),
  chain_id uuid NOT NULL,
  source_name text,
  programme text NOT NULL,
  detail text NOT NULL DEFAULT '',
  take_number integer NOT NULL CHECK (take_number >= 1),
  planned_gain_db double precision,
  planned_distance_m double precision,
  minutes double precision NOT NULL CHECK (minutes >= 0),
  done boolean NOT NULL DEFAULT false,
  gain_db double precision CHECK (gain_db BETWEEN -60 AND 100),
  distance_m double precision CHECK (distance_m BETWEEN 0 AND 1000),
  remark text NOT NULL DEFAULT '' CHECK (length(remark) <= 500),
  -- When the line was written at the stand, by its own clock: the later entry counts.
  written_at timestamptz,
  UNIQUE (comparison_id, day, position),
  FOREIGN KEY (chain_id, comparison_id) REFERENCES chain (id, comparison_id)
);

-- Coded clips that were given away; the key stays here until it is opened.
CREATE TABLE blind_pack (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  clip_set_id uuid NOT NULL,
  question text NOT NULL CHECK (length(question) BETWEEN 1 AND 200),
  seal text NOT NULL CHECK (seal ~ '^[0-9a-f]{64}$'),
  key_document text NOT NULL,
  -- The word of each chain, by its id.
  words jsonb NOT NULL,
  -- Of the dither of the clips.
  seed bigint NOT NULL,
  created_at timestamptz NOT NULL,
  opened_at timestamptz,
  FOREIGN KEY (clip_set_id, comparison_id) REFERENCES clip_set (id, comparison_id)
);

-- Recordings ordered from the simulated bench.
CREATE TABLE bench_order (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  plan jsonb NOT NULL,
  state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'ready', 'failed')),
  created_at timestamptz NOT NULL
);

-- Down Migration

DROP TABLE blind_pack, bench_order, run_line, archive;
ALTER TABLE upload DROP COLUMN pattern;
ALTER TABLE clip DROP COLUMN details;
ALTER TABLE take
  ADD COLUMN alignment text NOT NULL DEFAULT 'performance'
    CHECK (alignment IN ('performance', 'onset', 'hand')),
  ADD COLUMN hand_delay_ms double precision NOT NULL DEFAULT 0;
UPDATE take SET alignment = take_placing.alignment, hand_delay_ms = delay_ms
  FROM take_placing WHERE take_placing.take_id = take.id;
DROP TABLE take_placing, check_override;
DROP INDEX take_picked, take_content, take_chain;
CREATE UNIQUE INDEX take_content ON take (comparison_id, audio_id) WHERE state = 'ready';
UPDATE take SET chain_id = NULL WHERE id NOT IN
  (SELECT DISTINCT ON (chain_id) id FROM take WHERE chain_id IS NOT NULL ORDER BY chain_id, created_at);
CREATE UNIQUE INDEX take_of_chain ON take (chain_id) WHERE chain_id IS NOT NULL;
ALTER TABLE chain ADD COLUMN former_take_id uuid REFERENCES take ON DELETE SET NULL;
ALTER TABLE take
  DROP COLUMN former_chain_id, DROP COLUMN relation, DROP COLUMN simulated, DROP COLUMN picked, DROP COLUMN channels,
  DROP COLUMN detail, DROP COLUMN programme, DROP COLUMN source_name;
ALTER TABLE comparison
  ADD COLUMN passage_name text NOT NULL DEFAULT 'passage',
  ADD COLUMN passage_from_s double precision,
  ADD COLUMN passage_to_s double precision;
UPDATE comparison SET passage_name = passage.name, passage_from_s = from_s, passage_to_s = to_s
  FROM passage WHERE passage.comparison_id = comparison.id AND passage.position = 0;
ALTER TABLE clip_set
  DROP CONSTRAINT clip_set_method_check,
  ADD CONSTRAINT clip_set_method_check CHECK (method IN ('loudness', 'rms', 'tone')),
  DROP COLUMN recipe, DROP COLUMN context, DROP COLUMN passage_id;
DROP TABLE passage;

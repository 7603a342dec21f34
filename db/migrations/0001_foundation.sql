-- Up Migration

-- People who sign in. Listeners never do; they are in "listener".
CREATE TABLE account (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  name text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  password_hash text NOT NULL,
  role text NOT NULL DEFAULT 'owner' CHECK (role IN ('owner', 'engineer', 'conductor')),
  created_at timestamptz NOT NULL
);
CREATE UNIQUE INDEX account_name ON account (lower(name));

CREATE TABLE sign_in (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  account_id uuid NOT NULL REFERENCES account ON DELETE CASCADE,
  started_at timestamptz NOT NULL,
  ended_at timestamptz
);

-- Failed sign-ins, for the rate limit.
CREATE TABLE sign_in_failure (
  name text NOT NULL,
  at timestamptz NOT NULL
);
CREATE INDEX sign_in_failure_at ON sign_in_failure (at);

-- Secrets of this installation (cookie key), so that several web processes share them.
CREATE TABLE secret (
  name text PRIMARY KEY,
  value text NOT NULL
);

-- Sound as it arrived or was rendered: whole once "sha256" is set, immutable from then on.
CREATE TABLE audio (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  sha256 text UNIQUE CHECK (sha256 ~ '^[0-9a-f]{64}$'),
  byte_length bigint NOT NULL CHECK (byte_length >= 0),
  created_at timestamptz NOT NULL
);
CREATE TABLE audio_chunk (
  audio_id bigint NOT NULL REFERENCES audio ON DELETE CASCADE,
  seq integer NOT NULL CHECK (seq >= 0),
  data bytea NOT NULL CHECK (octet_length(data) <= 1048576),
  PRIMARY KEY (audio_id, seq)
);
ALTER TABLE audio_chunk ALTER COLUMN data SET STORAGE EXTERNAL;

CREATE TABLE comparison (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  owner_id uuid NOT NULL REFERENCES account,
  title text NOT NULL CHECK (length(title) BETWEEN 1 AND 120),
  question text NOT NULL DEFAULT '' CHECK (length(question) <= 2000),
  source_name text NOT NULL CHECK (length(source_name) BETWEEN 1 AND 120),
  passage_name text NOT NULL CHECK (length(passage_name) BETWEEN 1 AND 120),
  passage_from_s double precision,
  passage_to_s double precision,
  version integer NOT NULL DEFAULT 1,
  simulated boolean NOT NULL DEFAULT false,
  created_at timestamptz NOT NULL,
  CHECK ((passage_from_s IS NULL) = (passage_to_s IS NULL)),
  CHECK (passage_from_s IS NULL OR (passage_from_s >= 0 AND passage_to_s > passage_from_s))
);

CREATE TABLE chain (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  position integer NOT NULL,
  name text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  items text NOT NULL DEFAULT '' CHECK (length(items) <= 1000),
  price_cents bigint CHECK (price_cents >= 0),
  version integer NOT NULL DEFAULT 1,
  UNIQUE (id, comparison_id)
);
CREATE UNIQUE INDEX chain_name ON chain (comparison_id, lower(name));

CREATE TABLE upload (
  id text PRIMARY KEY,
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  audio_id bigint NOT NULL UNIQUE REFERENCES audio,
  file_name text NOT NULL CHECK (length(file_name) BETWEEN 1 AND 300),
  byte_length bigint NOT NULL CHECK (byte_length >= 0),
  received bigint NOT NULL DEFAULT 0,
  created_at timestamptz NOT NULL,
  CHECK (received BETWEEN 0 AND byte_length)
);

-- One recording. While "state" is waiting, its bytes are being checked by a job.
CREATE TABLE take (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  chain_id uuid,
  audio_id bigint NOT NULL REFERENCES audio,
  file_name text NOT NULL CHECK (length(file_name) BETWEEN 1 AND 300),
  state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'ready', 'refused', 'duplicate')),
  -- Why it was refused, or of which file it is a duplicate.
  remark text,
  facts jsonb,
  checks jsonb NOT NULL DEFAULT '[]',
  peaks bytea,
  alignment text NOT NULL DEFAULT 'performance' CHECK (alignment IN ('performance', 'onset', 'hand')),
  hand_delay_ms double precision NOT NULL DEFAULT 0,
  created_at timestamptz NOT NULL,
  FOREIGN KEY (chain_id, comparison_id) REFERENCES chain (id, comparison_id),
  CHECK ((state = 'ready') = (facts IS NOT NULL))
);
CREATE UNIQUE INDEX take_content ON take (comparison_id, audio_id) WHERE state = 'ready';
CREATE UNIQUE INDEX take_of_chain ON take (chain_id) WHERE chain_id IS NOT NULL;

-- A matched set of clips: never changed once rendered; a new match is a new set.
CREATE TABLE clip_set (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  method text NOT NULL CHECK (method IN ('loudness', 'rms', 'tone')),
  reference_chain_id uuid NOT NULL,
  passage_from_s double precision NOT NULL CHECK (passage_from_s >= 0),
  passage_to_s double precision NOT NULL CHECK (passage_to_s > passage_from_s),
  state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'ready', 'failed')),
  remark text,
  -- Target, what limits it, worst residual, sample rate, channels, frames.
  facts jsonb,
  created_at timestamptz NOT NULL,
  UNIQUE (id, comparison_id),
  FOREIGN KEY (reference_chain_id, comparison_id) REFERENCES chain (id, comparison_id),
  CHECK ((state = 'ready') = (facts IS NOT NULL))
);

CREATE TABLE clip (
  clip_set_id uuid NOT NULL,
  comparison_id uuid NOT NULL,
  chain_id uuid NOT NULL,
  take_id uuid NOT NULL REFERENCES take,
  -- Before rounding (32-bit float); every served copy is dithered from it.
  master_audio_id bigint NOT NULL REFERENCES audio,
  delay_samples double precision NOT NULL,
  polarity_inverted boolean NOT NULL,
  coherence double precision,
  gain_db double precision NOT NULL,
  before_lufs double precision NOT NULL,
  after_lufs double precision NOT NULL,
  residual_lu double precision NOT NULL CHECK (abs(residual_lu) <= 0.05),
  true_peak_dbtp double precision NOT NULL CHECK (true_peak_dbtp <= -0.99),
  PRIMARY KEY (clip_set_id, chain_id),
  FOREIGN KEY (clip_set_id, comparison_id) REFERENCES clip_set (id, comparison_id) ON DELETE CASCADE,
  FOREIGN KEY (chain_id, comparison_id) REFERENCES chain (id, comparison_id)
);

-- For setting the level and for the practice trial: belongs to no chain.
CREATE TABLE settling_clip (
  clip_set_id uuid NOT NULL REFERENCES clip_set ON DELETE CASCADE,
  variant integer NOT NULL CHECK (variant IN (0, 1)),
  master_audio_id bigint NOT NULL REFERENCES audio,
  PRIMARY KEY (clip_set_id, variant)
);

CREATE TABLE sitting (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  comparison_id uuid NOT NULL REFERENCES comparison,
  clip_set_id uuid NOT NULL,
  state text NOT NULL DEFAULT 'draft' CHECK (state IN ('draft', 'open', 'closed')),
  title text NOT NULL CHECK (length(title) BETWEEN 1 AND 120),
  prompt text NOT NULL CHECK (length(prompt) BETWEEN 1 AND 200),
  ties_allowed boolean NOT NULL,
  trials_per_listener integer NOT NULL CHECK (trials_per_listener BETWEEN 1 AND 200),
  seats integer NOT NULL CHECK (seats BETWEEN 1 AND 100),
  code_mode text NOT NULL CHECK (code_mode IN ('fresh', 'fixed')),
  -- The listeners' link; without it nobody gets in.
  token text NOT NULL UNIQUE,
  seal text CHECK (seal ~ '^[0-9a-f]{64}$'),
  -- Canonical JSON of key, plan and nonce, exactly as hashed.
  sealed_key text,
  simulated boolean NOT NULL DEFAULT false,
  created_at timestamptz NOT NULL,
  opened_at timestamptz,
  closed_at timestamptz,
  analysis jsonb,
  UNIQUE (id, clip_set_id),
  FOREIGN KEY (clip_set_id, comparison_id) REFERENCES clip_set (id, comparison_id),
  CHECK ((state = 'draft') = (seal IS NULL)),
  CHECK ((seal IS NULL) = (sealed_key IS NULL)),
  CHECK ((state = 'draft') = (opened_at IS NULL)),
  CHECK ((state = 'closed') = (closed_at IS NOT NULL)),
  CHECK (analysis IS NULL OR state = 'closed')
);
-- One sitting of a comparison at a time may be in preparation.
CREATE UNIQUE INDEX sitting_draft ON sitting (comparison_id) WHERE state = 'draft';

-- The key, row by row. Nothing but "listening" and, after closing, "results" reads it.
CREATE TABLE trial (
  sitting_id uuid NOT NULL REFERENCES sitting ON DELETE CASCADE,
  clip_set_id uuid NOT NULL,
  seat integer NOT NULL CHECK (seat >= 1),
  position integer NOT NULL CHECK (position >= 1),
  first_chain_id uuid NOT NULL,
  second_chain_id uuid NOT NULL,
  first_word text NOT NULL,
  second_word text NOT NULL,
  -- Opaque addresses of the two clips, and the seeds of their dither.
  first_address text NOT NULL UNIQUE,
  second_address text NOT NULL UNIQUE,
  first_seed bigint NOT NULL,
  second_seed bigint NOT NULL,
  PRIMARY KEY (sitting_id, seat, position),
  FOREIGN KEY (sitting_id, clip_set_id) REFERENCES sitting (id, clip_set_id),
  FOREIGN KEY (clip_set_id, first_chain_id) REFERENCES clip (clip_set_id, chain_id),
  FOREIGN KEY (clip_set_id, second_chain_id) REFERENCES clip (clip_set_id, chain_id),
  CHECK (first_chain_id <> second_chain_id),
  CHECK (first_word <> second_word)
);

CREATE TABLE listener (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  sitting_id uuid NOT NULL REFERENCES sitting,
  seat integer NOT NULL CHECK (seat >= 1),
  alias text NOT NULL CHECK (length(alias) BETWEEN 1 AND 40),
  token_hash text NOT NULL UNIQUE,
  playback text NOT NULL DEFAULT '',
  stage text NOT NULL DEFAULT 'level' CHECK (stage IN ('level', 'practice', 'trials')),
  simulated boolean NOT NULL DEFAULT false,
  consented_at timestamptz NOT NULL,
  UNIQUE (sitting_id, seat),
  UNIQUE (id, sitting_id, seat)
);
CREATE UNIQUE INDEX listener_alias ON listener (sitting_id, lower(alias));

-- Never updated, never deleted: one answer per listener and trial.
CREATE TABLE answer (
  listener_id uuid NOT NULL,
  sitting_id uuid NOT NULL,
  seat integer NOT NULL,
  position integer NOT NULL,
  choice text NOT NULL CHECK (choice IN ('first', 'second', 'tie')),
  idempotency_key uuid NOT NULL UNIQUE,
  first_heard_s double precision NOT NULL CHECK (first_heard_s >= 0),
  second_heard_s double precision NOT NULL CHECK (second_heard_s >= 0),
  switches integer NOT NULL CHECK (switches >= 0),
  duration_s double precision NOT NULL CHECK (duration_s >= 0),
  answered_at timestamptz NOT NULL,
  PRIMARY KEY (listener_id, position),
  FOREIGN KEY (listener_id, sitting_id, seat) REFERENCES listener (id, sitting_id, seat),
  FOREIGN KEY (sitting_id, seat, position) REFERENCES trial (sitting_id, seat, position)
);

-- Progress of long work, for screens; the queue itself is pg-boss.
CREATE TABLE work (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  queue text NOT NULL,
  job_id uuid NOT NULL,
  subject_id uuid NOT NULL,
  label text NOT NULL,
  state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'running', 'done', 'failed')),
  progress real NOT NULL DEFAULT 0 CHECK (progress BETWEEN 0 AND 1),
  remark text,
  updated_at timestamptz NOT NULL
);
CREATE INDEX work_comparison ON work (comparison_id, state);
CREATE INDEX take_comparison ON take (comparison_id);
CREATE INDEX clip_set_comparison ON clip_set (comparison_id, created_at);
CREATE INDEX sitting_comparison ON sitting (comparison_id);

-- Down Migration

DROP TABLE work, answer, listener, trial, sitting, settling_clip, clip, clip_set, take, upload, chain,
  comparison, audio_chunk, audio, secret, sign_in_failure, sign_in, account;

-- Up Migration

-- Somebody of the panel trains by a link of their own; what they hear is set beside the panel only if they agree.
CREATE TABLE ear_link (
  panelist_id uuid PRIMARY KEY REFERENCES panelist ON DELETE CASCADE,
  -- Of the secret in its address; the secret itself is shown once.
  token_hash text NOT NULL UNIQUE,
  shares boolean NOT NULL DEFAULT false,
  created_at timestamptz NOT NULL
);

-- A clip that the panel may train on, under a title that names no chain.
CREATE TABLE ear_sound (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  owner_id uuid NOT NULL REFERENCES account,
  clip_set_id uuid NOT NULL,
  chain_id uuid NOT NULL,
  title text NOT NULL CHECK (length(title) BETWEEN 1 AND 60),
  created_at timestamptz NOT NULL,
  withdrawn_at timestamptz,
  FOREIGN KEY (clip_set_id, chain_id) REFERENCES clip (clip_set_id, chain_id) ON DELETE CASCADE
);
CREATE INDEX ear_sound_owner ON ear_sound (owner_id) WHERE withdrawn_at IS NULL;

-- A size that the panel is asked to try: "1 dB at 3 kHz".
CREATE TABLE ear_test (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  owner_id uuid NOT NULL REFERENCES account,
  skill text NOT NULL CHECK (length(skill) BETWEEN 1 AND 40),
  choices jsonb NOT NULL,
  amount double precision NOT NULL,
  created_at timestamptz NOT NULL,
  withdrawn_at timestamptz
);
CREATE INDEX ear_test_owner ON ear_test (owner_id) WHERE withdrawn_at IS NULL;

-- A session of one person. Which of the three differed follows from the seed, so no trial is stored.
CREATE TABLE ear_session (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  owner_id uuid NOT NULL REFERENCES account,
  account_id uuid REFERENCES account,
  panelist_id uuid REFERENCES panelist ON DELETE CASCADE,
  skill text NOT NULL CHECK (length(skill) BETWEEN 1 AND 40),
  choices jsonb NOT NULL,
  -- The one size of a test; null where the size follows the answers.
  amount double precision,
  sound jsonb NOT NULL,
  seed bigint NOT NULL CHECK (seed BETWEEN 0 AND 4294967295),
  begun_at timestamptz NOT NULL,
  ended_at timestamptz,
  CHECK (num_nonnulls(account_id, panelist_id) = 1)
);
-- Somebody's own, the newest first; one at a time is open.
CREATE INDEX ear_session_account ON ear_session (account_id, begun_at) WHERE account_id IS NOT NULL;
CREATE INDEX ear_session_panelist ON ear_session (panelist_id, begun_at) WHERE panelist_id IS NOT NULL;
CREATE UNIQUE INDEX ear_session_open ON ear_session (coalesce(account_id, panelist_id)) WHERE ended_at IS NULL;

CREATE TABLE ear_answer (
  session_id uuid NOT NULL REFERENCES ear_session ON DELETE CASCADE,
  position integer NOT NULL CHECK (position BETWEEN 0 AND 199),
  chosen integer NOT NULL CHECK (chosen BETWEEN 0 AND 2),
  seconds double precision NOT NULL CHECK (seconds >= 0),
  -- Where on the skill's axis the difference was played: 0 the hardest, 1 the easiest.
  place double precision NOT NULL,
  answered_at timestamptz NOT NULL,
  PRIMARY KEY (session_id, position)
);

-- Down Migration

DROP TABLE ear_answer, ear_session, ear_test, ear_sound, ear_link;

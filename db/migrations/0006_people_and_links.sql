-- Up Migration

ALTER TABLE account
  -- Whose comparisons and gear this person works on; null for the owner, whose they are.
  ADD COLUMN studio_id uuid REFERENCES account,
  ADD COLUMN ended_at timestamptz,
  ADD CHECK ((studio_id IS NULL) = (role = 'owner'));

-- A link by which one more person makes an account; used once.
CREATE TABLE invitation (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  studio_id uuid NOT NULL REFERENCES account ON DELETE CASCADE,
  token_hash text NOT NULL UNIQUE,
  role text NOT NULL CHECK (role IN ('engineer', 'conductor')),
  meant_for text NOT NULL CHECK (length(meant_for) BETWEEN 1 AND 80),
  created_at timestamptz NOT NULL,
  expires_at timestamptz NOT NULL,
  used_at timestamptz
);

-- Somebody who listens now and then; told by themselves, in their own words.
CREATE TABLE panelist (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  owner_id uuid NOT NULL REFERENCES account,
  alias text NOT NULL CHECK (length(alias) BETWEEN 1 AND 40),
  experience text NOT NULL DEFAULT '' CHECK (length(experience) <= 300),
  hearing text NOT NULL DEFAULT '' CHECK (length(hearing) <= 300),
  playback text NOT NULL DEFAULT '' CHECK (length(playback) <= 120),
  created_at timestamptz NOT NULL
);
CREATE UNIQUE INDEX panelist_alias ON panelist (owner_id, lower(alias));

-- A link of one person to one sitting; it holds their seat on any device, and can be withdrawn.
CREATE TABLE listener_link (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  sitting_id uuid NOT NULL REFERENCES sitting ON DELETE CASCADE,
  panelist_id uuid NOT NULL REFERENCES panelist ON DELETE CASCADE,
  token text NOT NULL UNIQUE,
  created_at timestamptz NOT NULL,
  withdrawn_at timestamptz,
  UNIQUE (sitting_id, panelist_id)
);

ALTER TABLE listener ADD COLUMN panelist_id uuid REFERENCES panelist ON DELETE SET NULL;
CREATE UNIQUE INDEX listener_panelist ON listener (sitting_id, panelist_id);
-- Whether the link that everybody shares still takes new listeners.
ALTER TABLE sitting ADD COLUMN shared_link boolean NOT NULL DEFAULT true;

-- Down Migration

ALTER TABLE sitting DROP COLUMN shared_link;
ALTER TABLE listener DROP COLUMN panelist_id;
DROP TABLE listener_link, panelist, invitation;
ALTER TABLE account DROP COLUMN studio_id, DROP COLUMN ended_at;

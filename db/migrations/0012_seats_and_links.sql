-- Up Migration

-- Devices on which a seat was opened; each keeps a secret, of which the hash lies here.
CREATE TABLE seat_device (
  token_hash text PRIMARY KEY,
  listener_id uuid NOT NULL REFERENCES listener ON DELETE CASCADE,
  first_seen_at timestamptz NOT NULL,
  -- Whether the level was set on it: another device sounds another way.
  level_set boolean NOT NULL DEFAULT false
);
CREATE INDEX seat_device_listener ON seat_device (listener_id);
INSERT INTO seat_device (token_hash, listener_id, first_seen_at, level_set)
  SELECT token_hash, id, consented_at, stage <> 'level' FROM listener;

ALTER TABLE listener
  DROP COLUMN token_hash,
  -- The name as it is compared: letters that look alike are one.
  ADD COLUMN alias_key text,
  ADD COLUMN forgotten_at timestamptz,
  -- The seat that the same browser took by another link.
  ADD COLUMN same_as_seat integer CHECK (same_as_seat >= 1);
UPDATE listener SET alias_key = lower(alias),
  forgotten_at = CASE WHEN alias LIKE 'Listener % (forgotten)' THEN consented_at END;
ALTER TABLE listener ALTER COLUMN alias_key SET NOT NULL;
DROP INDEX listener_alias;
CREATE UNIQUE INDEX listener_alias ON listener (sitting_id, alias_key);

-- Links are shown once, when they are made; only their hashes are kept.
ALTER TABLE listener_link
  ADD COLUMN token_hash text UNIQUE,
  -- Whom it was for was forgotten; it can not be given back.
  ADD COLUMN forgotten boolean NOT NULL DEFAULT false;
UPDATE listener_link SET token_hash = encode(sha256(convert_to(token, 'UTF8')), 'hex');
ALTER TABLE listener_link ALTER COLUMN token_hash SET NOT NULL, DROP COLUMN token;

-- Links of whoever runs a room; the first device that plays holds it.
CREATE TABLE conductor_link (
  token_hash text PRIMARY KEY,
  sitting_id uuid NOT NULL REFERENCES sitting ON DELETE CASCADE,
  created_at timestamptz NOT NULL,
  device_hash text,
  first_played_at timestamptz
);
CREATE INDEX conductor_link_sitting ON conductor_link (sitting_id);
INSERT INTO conductor_link (token_hash, sitting_id, created_at)
  SELECT encode(sha256(convert_to(conductor_token, 'UTF8')), 'hex'), id, opened_at FROM sitting
  WHERE conductor_token IS NOT NULL AND opened_at IS NOT NULL;

-- When somebody listened by name to what an open sitting asks about.
CREATE TABLE named_listening (
  sitting_id uuid NOT NULL REFERENCES sitting ON DELETE CASCADE,
  account_name text NOT NULL,
  at timestamptz NOT NULL,
  PRIMARY KEY (sitting_id, account_name, at)
);

ALTER TABLE sitting
  DROP COLUMN conductor_token,
  -- Only people with a link of their own may come; sealed with the rest.
  ADD COLUMN invited_only boolean NOT NULL DEFAULT false;

-- Down Migration

-- Links whose secret is not known any more get new ones.
ALTER TABLE sitting DROP COLUMN invited_only, ADD COLUMN conductor_token text UNIQUE;
UPDATE sitting SET conductor_token = replace(gen_random_uuid()::text, '-', '')
  WHERE room = 'together' AND state <> 'draft';
ALTER TABLE sitting ADD CHECK (room = 'own' OR state = 'draft' OR conductor_token IS NOT NULL);
DROP TABLE conductor_link, named_listening;
ALTER TABLE listener_link DROP COLUMN token_hash, DROP COLUMN forgotten,
  ADD COLUMN token text NOT NULL UNIQUE DEFAULT replace(gen_random_uuid()::text, '-', '');
ALTER TABLE listener_link ALTER COLUMN token DROP DEFAULT;
ALTER TABLE listener ADD COLUMN token_hash text UNIQUE;
UPDATE listener SET token_hash = coalesce(
  (SELECT token_hash FROM seat_device WHERE listener_id = listener.id ORDER BY first_seen_at LIMIT 1),
  'none ' || gen_random_uuid());
DROP INDEX listener_alias;
ALTER TABLE listener ALTER COLUMN token_hash SET NOT NULL,
  DROP COLUMN alias_key, DROP COLUMN forgotten_at, DROP COLUMN same_as_seat;
CREATE UNIQUE INDEX listener_alias ON listener (sitting_id, lower(alias));
DROP TABLE seat_device;

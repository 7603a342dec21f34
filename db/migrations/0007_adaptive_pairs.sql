-- Up Migration

-- Whether the next pair is the one whose answer tells most of a listener, and the lot for what that rule
-- leaves open; null where orders are fixed when the sitting is sealed.
ALTER TABLE part
  ADD COLUMN adaptive boolean NOT NULL DEFAULT false,
  ADD COLUMN adaptive_seed bigint,
  ADD CHECK (adaptive OR adaptive_seed IS NULL),
  ADD CHECK (NOT adaptive OR (task = 'pair' AND first_chain_id IS NULL AND control_repeats = 0));

-- Down Migration

ALTER TABLE part DROP COLUMN adaptive, DROP COLUMN adaptive_seed;

-- Up Migration

-- A sitting whose answers came back in the sheets of a blind pack; its key is that of the pack.
ALTER TABLE sitting ADD COLUMN blind_pack_id uuid REFERENCES blind_pack,
  ADD CHECK (blind_pack_id IS NULL OR (purpose = 'panel' AND state = 'closed'));
-- Of the packs that the match page shows.
CREATE INDEX sitting_pack ON sitting (blind_pack_id) WHERE blind_pack_id IS NOT NULL;

-- Down Migration

-- The sittings and their answers stay, as sittings like others.
ALTER TABLE sitting DROP COLUMN blind_pack_id;

-- Up Migration

-- The panel learns two chains by a clip of each.
ALTER TABLE ear_sound ADD COLUMN other_chain_id uuid,
  ADD FOREIGN KEY (clip_set_id, other_chain_id) REFERENCES clip (clip_set_id, chain_id) ON DELETE CASCADE;

-- Down Migration

-- A pair stays as its first clip.
UPDATE ear_session SET sound = sound - 'pair' WHERE sound->>'kind' = 'given';
ALTER TABLE ear_sound DROP COLUMN other_chain_id;

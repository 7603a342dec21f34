-- Up Migration

-- What kinds of gear there are is said in one place, by the program; what is written is checked against it.
ALTER TABLE gear DROP CONSTRAINT gear_kind_check;

-- Down Migration

ALTER TABLE gear ADD CONSTRAINT gear_kind_check CHECK (kind IN ('microphone', 'capsule', 'booster', 'pad', 'transformer',
  'preamp', 'strip', 'converter', 'accessory'));

-- Up Migration

-- Before the first trial of a room: people join, the level is set on the loudspeakers, one trial is practised.
ALTER TABLE sitting
  ADD COLUMN room_stage text NOT NULL DEFAULT 'joining' CHECK (room_stage IN ('joining', 'level', 'practice')),
  -- When the room came to its trial, and how long each of its clips was heard there, from the conductor's player.
  ADD COLUMN room_began_at timestamptz,
  ADD COLUMN room_heard_s real[];

-- Down Migration

ALTER TABLE sitting DROP COLUMN room_stage, DROP COLUMN room_began_at, DROP COLUMN room_heard_s;

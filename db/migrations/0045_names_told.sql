-- Up Migration

-- Names may be told after each part as well: the sitting is exploratory then.
ALTER TABLE sitting DROP CONSTRAINT sitting_reveal_check;
ALTER TABLE sitting ADD CONSTRAINT sitting_reveal_check CHECK (reveal IN ('never', 'after closing', 'after each part'));

-- When anybody could read the names of a part first; what others answer in it later counts in no result.
CREATE TABLE part_told (
  sitting_id uuid NOT NULL,
  part integer NOT NULL,
  told_at timestamptz NOT NULL,
  PRIMARY KEY (sitting_id, part),
  FOREIGN KEY (sitting_id, part) REFERENCES part (sitting_id, number) ON DELETE CASCADE
);

-- How many of their own blind pairs listeners hear once more at the end, with names and prices; 0 for none.
ALTER TABLE sitting ADD COLUMN sighted_trials integer NOT NULL DEFAULT 0 CHECK (sighted_trials BETWEEN 0 AND 8);

-- What was answered then. It stands beside the blind answers and is never one of them.
CREATE TABLE sighted_answer (
  listener_id uuid NOT NULL,
  sitting_id uuid NOT NULL,
  seat integer NOT NULL,
  -- Its place among those with names, from 1; and the blind trial that it repeats.
  number integer NOT NULL CHECK (number BETWEEN 1 AND 8),
  position integer NOT NULL,
  answer jsonb NOT NULL,
  idempotency_key uuid NOT NULL UNIQUE,
  heard_s real[] NOT NULL,
  switches integer NOT NULL CHECK (switches >= 0),
  duration_s double precision NOT NULL CHECK (duration_s >= 0),
  -- Names and prices in the order of the slots, as they were shown.
  shown jsonb NOT NULL,
  answered_at timestamptz NOT NULL,
  PRIMARY KEY (listener_id, number),
  UNIQUE (listener_id, position),
  FOREIGN KEY (listener_id, sitting_id, seat) REFERENCES listener (id, sitting_id, seat) ON DELETE CASCADE,
  FOREIGN KEY (sitting_id, seat, position) REFERENCES trial (sitting_id, seat, position)
);
-- Results read those of many sittings at once.
CREATE INDEX sighted_answer_sitting ON sighted_answer (sitting_id, seat, number);

-- Down Migration

DROP TABLE sighted_answer;
ALTER TABLE sitting DROP COLUMN sighted_trials;
DROP TABLE part_told;
UPDATE sitting SET reveal = 'after closing' WHERE reveal = 'after each part';
ALTER TABLE sitting DROP CONSTRAINT sitting_reveal_check;
ALTER TABLE sitting ADD CONSTRAINT sitting_reveal_check CHECK (reveal IN ('never', 'after closing'));

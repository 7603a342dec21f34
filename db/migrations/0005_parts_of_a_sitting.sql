-- Up Migration

-- A sitting is a row of parts; each asks one task over one set of clips.
CREATE TABLE part (
  sitting_id uuid NOT NULL REFERENCES sitting ON DELETE CASCADE,
  comparison_id uuid NOT NULL,
  number integer NOT NULL CHECK (number BETWEEN 1 AND 12),
  task text NOT NULL CHECK (task IN
    ('pair', 'line', 'reference', 'duo-trio', 'triangle', 'two-interval', 'memory', 'words')),
  clip_set_id uuid NOT NULL,
  prompt text NOT NULL CHECK (length(prompt) BETWEEN 1 AND 200),
  ties_allowed boolean NOT NULL,
  -- Judged trials of each listener; controls come on top.
  trials integer NOT NULL CHECK (trials BETWEEN 1 AND 200),
  -- The only two chains of the part, the first expected to have more of what is asked; null: all.
  first_chain_id uuid,
  second_chain_id uuid,
  control_self boolean NOT NULL DEFAULT false,
  control_louder boolean NOT NULL DEFAULT false,
  control_repeats integer NOT NULL DEFAULT 0 CHECK (control_repeats BETWEEN 0 AND 20),
  words text[] NOT NULL DEFAULT '{}' CHECK (cardinality(words) <= 60),
  PRIMARY KEY (sitting_id, number),
  UNIQUE (sitting_id, number, clip_set_id),
  FOREIGN KEY (clip_set_id, comparison_id) REFERENCES clip_set (id, comparison_id),
  FOREIGN KEY (clip_set_id, first_chain_id) REFERENCES clip (clip_set_id, chain_id),
  FOREIGN KEY (clip_set_id, second_chain_id) REFERENCES clip (clip_set_id, chain_id),
  CHECK ((first_chain_id IS NULL) = (second_chain_id IS NULL)),
  CHECK (first_chain_id <> second_chain_id),
  CHECK ((task = 'words') = (cardinality(words) > 0))
);
CREATE INDEX part_clip_set ON part (clip_set_id);
INSERT INTO part (sitting_id, comparison_id, number, task, clip_set_id, prompt, ties_allowed, trials)
  SELECT id, comparison_id, 1, 'pair', clip_set_id, prompt, ties_allowed, trials_per_listener FROM sitting;

-- One clip of a trial, in the order that the listener sees.
CREATE TABLE trial_clip (
  sitting_id uuid NOT NULL,
  seat integer NOT NULL,
  position integer NOT NULL,
  slot integer NOT NULL CHECK (slot BETWEEN 0 AND 8),
  clip_set_id uuid NOT NULL,
  chain_id uuid NOT NULL,
  -- What is added to the matched level: 0, or 1 for the control that asks who follows loudness.
  gain_db double precision NOT NULL DEFAULT 0 CHECK (gain_db IN (0, 1)),
  word text NOT NULL,
  -- Opaque address of this listener's copy, and the seed of its dither.
  address text NOT NULL UNIQUE,
  seed bigint NOT NULL,
  PRIMARY KEY (sitting_id, seat, position, slot),
  UNIQUE (sitting_id, seat, position, word),
  FOREIGN KEY (clip_set_id, chain_id) REFERENCES clip (clip_set_id, chain_id)
);
INSERT INTO trial_clip (sitting_id, seat, position, slot, clip_set_id, chain_id, word, address, seed)
  SELECT sitting_id, seat, position, 0, clip_set_id, first_chain_id, first_word, first_address, first_seed
    FROM trial
  UNION ALL
  SELECT sitting_id, seat, position, 1, clip_set_id, second_chain_id, second_word, second_address, second_seed
    FROM trial;

ALTER TABLE trial
  ADD COLUMN part integer NOT NULL DEFAULT 1,
  ADD COLUMN kind text NOT NULL DEFAULT 'judged'
    CHECK (kind IN ('judged', 'self', 'louder', 'repeat', 'learning')),
  -- Slot, or learned clip, that is the right answer; null where taste is asked.
  ADD COLUMN right_slot integer CHECK (right_slot BETWEEN 0 AND 8),
  DROP COLUMN first_chain_id, DROP COLUMN second_chain_id,
  DROP COLUMN first_word, DROP COLUMN second_word,
  DROP COLUMN first_address, DROP COLUMN second_address,
  DROP COLUMN first_seed, DROP COLUMN second_seed,
  DROP COLUMN clip_set_id,
  ADD FOREIGN KEY (sitting_id, part) REFERENCES part (sitting_id, number);
ALTER TABLE trial ALTER COLUMN part DROP DEFAULT, ALTER COLUMN kind DROP DEFAULT;
ALTER TABLE trial_clip ADD FOREIGN KEY (sitting_id, seat, position)
  REFERENCES trial (sitting_id, seat, position) ON DELETE CASCADE;

ALTER TABLE answer
  ADD COLUMN answer jsonb,
  ADD COLUMN heard_s double precision[],
  -- Given faster than anyone listens; kept and marked, not refused.
  ADD COLUMN hasty boolean NOT NULL DEFAULT false;
UPDATE answer SET answer = jsonb_build_object('choice', choice),
  heard_s = ARRAY[first_heard_s, second_heard_s];
ALTER TABLE answer
  ALTER COLUMN answer SET NOT NULL,
  ALTER COLUMN heard_s SET NOT NULL,
  ADD CHECK (0 <= ALL (heard_s)),
  DROP COLUMN choice, DROP COLUMN first_heard_s, DROP COLUMN second_heard_s;

UPDATE sitting SET analysis = jsonb_build_object('parts', jsonb_build_array(jsonb_build_object(
    'task', 'pair', 'answers', (SELECT count(*) FROM answer WHERE answer.sitting_id = sitting.id),
    'pair', analysis -> 'analysis', 'ratings', NULL, 'audibility', '[]'::jsonb, 'memory', NULL,
    'words', '[]'::jsonb, 'controls', '[]'::jsonb, 'warnings', analysis -> 'warnings')))
  WHERE analysis IS NOT NULL;

ALTER TABLE sitting
  ADD COLUMN reset_sound text NOT NULL DEFAULT 'none' CHECK (reset_sound IN ('none', 'noise', 'silence')),
  -- Everybody with headphones at their own pace, or all at once in one room.
  ADD COLUMN room text NOT NULL DEFAULT 'own' CHECK (room IN ('own', 'together')),
  -- The conductor's link; whoever has it runs the room, and is told no more than the listeners are.
  ADD COLUMN conductor_token text UNIQUE,
  -- Short code for joining while the sitting is open.
  ADD COLUMN code text CHECK (code ~ '^[A-Z2-9]{6}$'),
  -- The trial that the room hears, 0 before the first; and whether all of it was played.
  ADD COLUMN room_position integer NOT NULL DEFAULT 0 CHECK (room_position >= 0),
  ADD COLUMN room_heard boolean NOT NULL DEFAULT false,
  -- Walked by the engineer alone; never listed, closed or read.
  ADD COLUMN rehearsal boolean NOT NULL DEFAULT false,
  -- When somebody looked into the key before closing, and why; every report says so.
  ADD COLUMN seal_broken_at timestamptz,
  ADD COLUMN seal_broken_reason text CHECK (length(seal_broken_reason) BETWEEN 1 AND 500),
  ADD CHECK ((seal_broken_at IS NULL) = (seal_broken_reason IS NULL)),
  ADD CHECK (seal_broken_at IS NULL OR state <> 'draft'),
  ADD CHECK (NOT rehearsal OR state <> 'closed'),
  ADD CHECK (room = 'own' OR state = 'draft' OR conductor_token IS NOT NULL),
  DROP COLUMN prompt, DROP COLUMN ties_allowed, DROP COLUMN trials_per_listener, DROP COLUMN clip_set_id;
ALTER TABLE sitting ALTER COLUMN reset_sound DROP DEFAULT;
DROP INDEX sitting_draft;
CREATE UNIQUE INDEX sitting_draft ON sitting (comparison_id) WHERE state = 'draft' AND NOT rehearsal;
CREATE UNIQUE INDEX sitting_code ON sitting (code) WHERE state = 'open';
CREATE INDEX trial_part ON trial (sitting_id, part);

-- Codes that led nowhere, for the rate limit.
CREATE TABLE code_failure (at timestamptz NOT NULL);
CREATE INDEX code_failure_at ON code_failure (at);

ALTER TABLE listener
  ADD COLUMN level_changes integer NOT NULL DEFAULT 0 CHECK (level_changes >= 0),
  -- How many parts were begun: what the next part asks is read before it starts.
  ADD COLUMN parts_begun integer NOT NULL DEFAULT 0 CHECK (parts_begun >= 0);
UPDATE listener SET parts_begun = 1 WHERE stage = 'trials';

-- Down Migration

UPDATE sitting SET analysis = jsonb_build_object('analysis', analysis -> 'parts' -> 0 -> 'pair',
    'warnings', analysis -> 'parts' -> 0 -> 'warnings') WHERE analysis IS NOT NULL;
ALTER TABLE listener DROP COLUMN level_changes, DROP COLUMN parts_begun;
DELETE FROM answer USING sitting WHERE sitting.id = sitting_id AND rehearsal;
DELETE FROM listener USING sitting WHERE sitting.id = sitting_id AND rehearsal;
DELETE FROM sitting WHERE rehearsal;
DROP TABLE code_failure;
DROP INDEX sitting_draft, sitting_code, trial_part;
CREATE UNIQUE INDEX sitting_draft ON sitting (comparison_id) WHERE state = 'draft';
ALTER TABLE sitting
  DROP COLUMN room, DROP COLUMN conductor_token, DROP COLUMN code, DROP COLUMN room_position,
  DROP COLUMN room_heard, DROP COLUMN reset_sound, DROP COLUMN rehearsal, DROP COLUMN seal_broken_at,
  DROP COLUMN seal_broken_reason,
  ADD COLUMN prompt text, ADD COLUMN ties_allowed boolean, ADD COLUMN trials_per_listener integer,
  ADD COLUMN clip_set_id uuid;
-- Only pairs fit the older shape.
DELETE FROM answer WHERE sitting_id IN (SELECT sitting_id FROM part WHERE task <> 'pair' OR number > 1);
DELETE FROM trial WHERE sitting_id IN (SELECT sitting_id FROM part WHERE task <> 'pair' OR number > 1);
DELETE FROM listener WHERE sitting_id IN (SELECT sitting_id FROM part WHERE task <> 'pair' OR number > 1);
DELETE FROM sitting WHERE id IN (SELECT sitting_id FROM part WHERE task <> 'pair' OR number > 1);
DELETE FROM answer USING trial WHERE trial.sitting_id = answer.sitting_id AND trial.seat = answer.seat
  AND trial.position = answer.position AND trial.kind IN ('self', 'louder');
DELETE FROM trial WHERE kind IN ('self', 'louder');
UPDATE sitting SET prompt = part.prompt, ties_allowed = part.ties_allowed,
  trials_per_listener = part.trials, clip_set_id = part.clip_set_id
  FROM part WHERE part.sitting_id = sitting.id;
ALTER TABLE sitting
  ALTER COLUMN prompt SET NOT NULL, ALTER COLUMN ties_allowed SET NOT NULL,
  ALTER COLUMN trials_per_listener SET NOT NULL, ALTER COLUMN clip_set_id SET NOT NULL,
  ADD CHECK (length(prompt) BETWEEN 1 AND 200), ADD CHECK (trials_per_listener BETWEEN 1 AND 200),
  ADD UNIQUE (id, clip_set_id),
  ADD FOREIGN KEY (clip_set_id, comparison_id) REFERENCES clip_set (id, comparison_id);
ALTER TABLE answer
  ADD COLUMN choice text CHECK (choice IN ('first', 'second', 'tie')),
  ADD COLUMN first_heard_s double precision CHECK (first_heard_s >= 0),
  ADD COLUMN second_heard_s double precision CHECK (second_heard_s >= 0);
UPDATE answer SET choice = answer ->> 'choice', first_heard_s = heard_s[1], second_heard_s = heard_s[2];
ALTER TABLE answer
  ALTER COLUMN choice SET NOT NULL, ALTER COLUMN first_heard_s SET NOT NULL,
  ALTER COLUMN second_heard_s SET NOT NULL,
  DROP COLUMN answer, DROP COLUMN heard_s, DROP COLUMN hasty;
ALTER TABLE trial
  ADD COLUMN clip_set_id uuid,
  ADD COLUMN first_chain_id uuid, ADD COLUMN second_chain_id uuid,
  ADD COLUMN first_word text, ADD COLUMN second_word text,
  ADD COLUMN first_address text UNIQUE, ADD COLUMN second_address text UNIQUE,
  ADD COLUMN first_seed bigint, ADD COLUMN second_seed bigint;
UPDATE trial SET clip_set_id = clip.clip_set_id, first_chain_id = clip.chain_id, first_word = clip.word,
  first_address = clip.address, first_seed = clip.seed
  FROM trial_clip AS clip WHERE clip.sitting_id = trial.sitting_id AND clip.seat = trial.seat
    AND clip.position = trial.position AND clip.slot = 0;
UPDATE trial SET second_chain_id = clip.chain_id, second_word = clip.word,
  second_address = clip.address, second_seed = clip.seed
  FROM trial_clip AS clip WHERE clip.sitting_id = trial.sitting_id AND clip.seat = trial.seat
    AND clip.position = trial.position AND clip.slot = 1;
ALTER TABLE trial
  ALTER COLUMN clip_set_id SET NOT NULL,
  ALTER COLUMN first_chain_id SET NOT NULL, ALTER COLUMN second_chain_id SET NOT NULL,
  ALTER COLUMN first_word SET NOT NULL, ALTER COLUMN second_word SET NOT NULL,
  ALTER COLUMN first_address SET NOT NULL, ALTER COLUMN second_address SET NOT NULL,
  ALTER COLUMN first_seed SET NOT NULL, ALTER COLUMN second_seed SET NOT NULL,
  ADD CHECK (first_chain_id <> second_chain_id), ADD CHECK (first_word <> second_word),
  ADD FOREIGN KEY (sitting_id, clip_set_id) REFERENCES sitting (id, clip_set_id),
  ADD FOREIGN KEY (clip_set_id, first_chain_id) REFERENCES clip (clip_set_id, chain_id),
  ADD FOREIGN KEY (clip_set_id, second_chain_id) REFERENCES clip (clip_set_id, chain_id),
  DROP COLUMN part, DROP COLUMN kind, DROP COLUMN right_slot;
DROP TABLE trial_clip, part;

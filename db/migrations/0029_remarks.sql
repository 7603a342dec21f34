-- Up Migration

-- One line that a listener may add to an answer; read by nobody before the sitting is closed.
ALTER TABLE answer ADD COLUMN remark text NOT NULL DEFAULT '' CHECK (length(remark) <= 200);

-- What an engineer noted while hearing clips by name: of a set or of one of its clips, with the loop that ran.
CREATE TABLE clip_note (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  clip_set_id uuid NOT NULL REFERENCES clip_set ON DELETE CASCADE,
  chain_id uuid REFERENCES chain ON DELETE CASCADE,
  account_id uuid NOT NULL REFERENCES account ON DELETE CASCADE,
  at timestamptz NOT NULL,
  from_s double precision CHECK (from_s >= 0),
  to_s double precision CHECK (to_s >= from_s),
  note text NOT NULL CHECK (length(note) BETWEEN 1 AND 500)
);
-- Of the set that the page shows, the newest first.
CREATE INDEX clip_note_set ON clip_note (clip_set_id, at DESC);

-- Down Migration

DROP TABLE clip_note;
ALTER TABLE answer DROP COLUMN remark;

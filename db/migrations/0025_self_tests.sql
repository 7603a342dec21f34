-- Up Migration

-- What a sitting is for: the panel; a rehearsal, walked by the engineer alone and not kept; or a test of one's own
-- ears, kept with whose they are.
ALTER TABLE sitting
  ADD COLUMN purpose text NOT NULL DEFAULT 'panel' CHECK (purpose IN ('panel', 'rehearsal', 'self-test')),
  ADD COLUMN tester_id uuid REFERENCES account,
  -- Whether the clips, or the takes they were cut from, had been heard by name before.
  ADD COLUMN heard_before boolean NOT NULL DEFAULT false;
UPDATE sitting SET purpose = 'rehearsal' WHERE rehearsal;
ALTER TABLE sitting ALTER COLUMN purpose DROP DEFAULT,
  ADD CHECK ((purpose = 'self-test') = (tester_id IS NOT NULL)),
  ADD CHECK (purpose <> 'rehearsal' OR state <> 'closed');

CREATE OR REPLACE VIEW comparison_paid AS
  SELECT comparison_id, coalesce(sum((SELECT count(*) FROM answer WHERE sitting_id = sitting.id)), 0)::int AS answers,
    (count(*) FILTER (WHERE state = 'open'))::int AS open_sittings
  FROM sitting WHERE purpose = 'panel' GROUP BY comparison_id;
-- Answers depend on the clips of a self-test, too.
CREATE OR REPLACE VIEW clip_set_use AS
  SELECT clip_set_id, sitting_id FROM part JOIN sitting ON sitting.id = sitting_id WHERE purpose <> 'rehearsal';
DROP INDEX sitting_draft;
CREATE UNIQUE INDEX sitting_draft ON sitting (comparison_id) WHERE state = 'draft' AND purpose = 'panel';
-- Of one's own tests on the match page.
CREATE INDEX sitting_tester ON sitting (comparison_id, tester_id, created_at) WHERE purpose = 'self-test';
ALTER TABLE sitting DROP COLUMN rehearsal;

-- Who heard which take by name, or a clip of it, and when first.
CREATE TABLE heard_by_name (
  account_id uuid NOT NULL REFERENCES account ON DELETE CASCADE,
  take_id uuid NOT NULL REFERENCES take ON DELETE CASCADE,
  at timestamptz NOT NULL,
  PRIMARY KEY (account_id, take_id)
);
CREATE INDEX heard_by_name_take ON heard_by_name (take_id);

-- Down Migration

DROP TABLE heard_by_name;
-- The older shape knows sittings of the panel and rehearsals alone.
DELETE FROM answer USING sitting WHERE sitting.id = sitting_id AND purpose = 'self-test';
DELETE FROM listener USING sitting WHERE sitting.id = sitting_id AND purpose = 'self-test';
DELETE FROM sitting WHERE purpose = 'self-test';
ALTER TABLE sitting ADD COLUMN rehearsal boolean NOT NULL DEFAULT false;
UPDATE sitting SET rehearsal = true WHERE purpose = 'rehearsal';
ALTER TABLE sitting ADD CHECK (NOT rehearsal OR state <> 'closed');
CREATE OR REPLACE VIEW comparison_paid AS
  SELECT comparison_id, coalesce(sum((SELECT count(*) FROM answer WHERE sitting_id = sitting.id)), 0)::int AS answers,
    (count(*) FILTER (WHERE state = 'open'))::int AS open_sittings
  FROM sitting WHERE NOT rehearsal GROUP BY comparison_id;
CREATE OR REPLACE VIEW clip_set_use AS
  SELECT clip_set_id, sitting_id FROM part JOIN sitting ON sitting.id = sitting_id WHERE NOT rehearsal;
DROP INDEX sitting_tester, sitting_draft;
CREATE UNIQUE INDEX sitting_draft ON sitting (comparison_id) WHERE state = 'draft' AND NOT rehearsal;
ALTER TABLE sitting DROP COLUMN purpose, DROP COLUMN tester_id, DROP COLUMN heard_before;

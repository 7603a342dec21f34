-- Up Migration

-- How each chain stood in each place of a closed sitting, as its stored reading says it, and anew with it: what a
-- studio has heard of its gear over all comparisons is asked of these rows, not of whole readings.
CREATE TABLE chain_standing (
  sitting_id uuid NOT NULL REFERENCES sitting (id) ON DELETE CASCADE,
  part smallint NOT NULL,
  chain_id uuid NOT NULL REFERENCES chain (id),
  -- What is counted: choices of 100, or points of a line; words were ticked.
  unit text NOT NULL CHECK (unit IN ('share', 'points', 'words')),
  value double precision,
  low double precision,
  high double precision,
  -- Whether it may be the best there, and with how many; whether anything is claimed of the place.
  leads boolean NOT NULL,
  leaders smallint NOT NULL,
  claimed boolean NOT NULL,
  chains smallint NOT NULL,
  listeners smallint NOT NULL,
  -- Words that were ticked for it most: [{"word", "count"}].
  words jsonb NOT NULL DEFAULT '[]',
  PRIMARY KEY (sitting_id, part, chain_id)
);
-- For the page of a gear item: all that its chains took part in.
CREATE INDEX ON chain_standing (chain_id);
-- Version of the rows of a sitting; null where they are still to be made.
ALTER TABLE sitting ADD COLUMN standings text;

-- Down Migration

ALTER TABLE sitting DROP COLUMN standings;
DROP TABLE chain_standing;

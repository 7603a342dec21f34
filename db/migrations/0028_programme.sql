-- Up Migration

-- The test programme as the engineer plans it: steps, each with the details that it is recorded with.
ALTER TABLE comparison ADD COLUMN programme jsonb NOT NULL DEFAULT '[]';

-- Lines that stand one after another and are one time at the stand, with all chains side by side.
ALTER TABLE run_line ADD COLUMN at_once boolean NOT NULL DEFAULT false;

-- Of takes that were recorded one after another: those nearest to each other. What somebody picks counts before.
ALTER TABLE take ADD COLUMN nearest boolean NOT NULL DEFAULT false;

-- Down Migration

ALTER TABLE take DROP COLUMN nearest;
ALTER TABLE run_line DROP COLUMN at_once;
ALTER TABLE comparison DROP COLUMN programme;

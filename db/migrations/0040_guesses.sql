-- Up Migration

-- Whether listeners are asked, before they hear anything, which chain they expect to win.
ALTER TABLE sitting ADD COLUMN asks_guess boolean NOT NULL DEFAULT false;
-- What somebody expected: a chain or none, and whether they can be told apart; null where it was not asked.
ALTER TABLE listener ADD COLUMN guess jsonb;

-- Down Migration

ALTER TABLE listener DROP COLUMN guess;
ALTER TABLE sitting DROP COLUMN asks_guess;

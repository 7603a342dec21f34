-- Up Migration

-- Which time of playing a take is of, where somebody said so; else it is worked out of sound, times, names and order.
ALTER TABLE take ADD COLUMN performance smallint CHECK (performance BETWEEN 1 AND 999);
-- Of the performance that most chains recorded: clips are made of it unless somebody chooses.
ALTER TABLE take ADD COLUMN foremost boolean NOT NULL DEFAULT false;

-- Down Migration

ALTER TABLE take DROP COLUMN foremost, DROP COLUMN performance;

-- Up Migration

-- What an item costs besides its price: how high that may be, used, rented a day, and as it was quoted in another currency
-- with the rate at which it was taken ({"upToCents", "usedCents": [from, to], "rentDayCents", "quoted": {"amount", "currency", "rate"}}).
ALTER TABLE gear ADD COLUMN prices jsonb NOT NULL DEFAULT '{}';

-- Down Migration

ALTER TABLE gear DROP COLUMN prices;

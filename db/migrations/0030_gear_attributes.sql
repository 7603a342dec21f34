-- Up Migration

-- What a studio notes of its gear beside the specs: names of its own, and what they are of this item.
ALTER TABLE gear ADD COLUMN attributes jsonb NOT NULL DEFAULT '{}';

-- Down Migration

ALTER TABLE gear DROP COLUMN attributes;

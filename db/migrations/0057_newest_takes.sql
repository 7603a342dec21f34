-- Up Migration

-- Search looks among the newest takes first (steps/overview/search-store.ts).
CREATE INDEX take_created ON take (created_at);

-- Down Migration

DROP INDEX take_created;

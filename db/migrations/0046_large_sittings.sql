-- Up Migration

-- A sitting may hold up to 2,000 people.
ALTER TABLE sitting DROP CONSTRAINT sitting_seats_check;
ALTER TABLE sitting ADD CONSTRAINT sitting_seats_check CHECK (seats BETWEEN 1 AND 2000);

-- Down Migration

-- Larger ones that are there stay as they are.
ALTER TABLE sitting DROP CONSTRAINT sitting_seats_check;
ALTER TABLE sitting ADD CONSTRAINT sitting_seats_check CHECK (seats BETWEEN 1 AND 100) NOT VALID;

-- Up Migration

-- How many of the nights' copies are kept, where an owner changed it; one row at most.
CREATE TABLE copies_kept (
  single boolean PRIMARY KEY DEFAULT true CHECK (single),
  days integer NOT NULL CHECK (days BETWEEN 1 AND 60),
  weeks integer NOT NULL CHECK (weeks BETWEEN 0 AND 60),
  months integer NOT NULL CHECK (months BETWEEN 0 AND 120)
);

-- Down Migration

DROP TABLE copies_kept;

-- Up Migration

-- The loading of the demo scenario: begun in the transaction that makes its account, dated when it was whole.
CREATE TABLE demo_load (
  single boolean PRIMARY KEY DEFAULT true CHECK (single),
  account_id uuid NOT NULL REFERENCES account ON DELETE CASCADE,
  begun_at timestamptz NOT NULL,
  loaded_at timestamptz
);

-- Down Migration

DROP TABLE demo_load;

-- Up Migration

-- Copies of the whole bank: those of each night, and those that an owner asked for. The files lie in a folder beside it.
CREATE TABLE bank_copy (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  -- Who asked for it; null for a night's own.
  asked_by uuid REFERENCES account ON DELETE SET NULL,
  asked_at timestamptz NOT NULL,
  begun_at timestamptz,
  -- The moment that it holds; null while it is being made, and where it was not possible.
  made_at timestamptz,
  file text NOT NULL DEFAULT '',
  bytes bigint,
  rows bigint,
  failed text,
  -- Thinned out since: the file is gone.
  removed_at timestamptz,
  -- Brought back for trial into a database of its own, and compared.
  tested_at timestamptz,
  test_failed text
);
-- For what is asked for and for the page, the newest first.
CREATE INDEX bank_copy_asked ON bank_copy (asked_at DESC);

-- Down Migration

DROP TABLE bank_copy;

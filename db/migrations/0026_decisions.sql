-- Up Migration

-- Marks that are given with open eyes, of a chain or of an item that chains hold. Nothing is changed or erased: the
-- newest of each person, thing and criterion counts, and its time tells whether it came before the reveal.
CREATE TABLE mark (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  chain_id uuid REFERENCES chain ON DELETE CASCADE,
  gear_id uuid REFERENCES gear ON DELETE CASCADE,
  criterion text NOT NULL,
  account_id uuid NOT NULL REFERENCES account ON DELETE CASCADE,
  -- Null: taken back.
  value text CHECK (value IN ('1', '2', '3', '4', '5', 'yes', 'no')),
  remark text NOT NULL DEFAULT '',
  at timestamptz NOT NULL,
  CHECK ((chain_id IS NULL) <> (gear_id IS NULL))
);
-- Of the marks of a comparison's chains, and of what they hold.
CREATE INDEX mark_chain ON mark (chain_id, criterion, account_id, at DESC) WHERE chain_id IS NOT NULL;
CREATE INDEX mark_gear ON mark (gear_id, criterion, account_id, at DESC) WHERE gear_id IS NOT NULL;

-- What counts how much, and on what ground must-haves are judged; each change is kept, the newest counts.
CREATE TABLE weighing (
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  version int NOT NULL,
  account_id uuid NOT NULL REFERENCES account ON DELETE CASCADE,
  at timestamptz NOT NULL,
  content jsonb NOT NULL,
  PRIMARY KEY (comparison_id, version)
);

-- A decision as it was locked: text and evidence as they were hashed, each version beside the older ones.
CREATE TABLE decision (
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  version int NOT NULL,
  account_id uuid NOT NULL REFERENCES account ON DELETE CASCADE,
  at timestamptz NOT NULL,
  -- Canonical JSON: the SHA-256 is over these bytes.
  record text NOT NULL,
  sha256 text NOT NULL,
  -- Of the record, for searching over all comparisons.
  words text NOT NULL,
  listen_again date,
  PRIMARY KEY (comparison_id, version)
);

-- What a larger panel might say, where somebody asked.
CREATE TABLE panel_forecast (
  sitting_id uuid PRIMARY KEY REFERENCES sitting ON DELETE CASCADE,
  content jsonb
);

-- Down Migration

DROP TABLE panel_forecast, decision, weighing, mark;

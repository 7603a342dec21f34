-- Up Migration

-- Which closed sittings somebody chose to read together, against which chain, when and why; kept for good.
CREATE TABLE joint_reading (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  account_id uuid NOT NULL REFERENCES account,
  reference_chain_id uuid NOT NULL REFERENCES chain,
  reason text NOT NULL CHECK (length(reason) BETWEEN 1 AND 500),
  at timestamptz NOT NULL,
  -- What was read; read anew where an older version of the program did.
  read jsonb NOT NULL
);
-- Of a comparison's page, the newest first.
CREATE INDEX joint_reading_comparison ON joint_reading (comparison_id, at DESC);

CREATE TABLE joint_sitting (
  joint_reading_id uuid NOT NULL REFERENCES joint_reading ON DELETE CASCADE,
  sitting_id uuid NOT NULL REFERENCES sitting,
  PRIMARY KEY (joint_reading_id, sitting_id)
);
CREATE INDEX joint_sitting_sitting ON joint_sitting (sitting_id);

-- Down Migration

DROP TABLE joint_sitting, joint_reading;

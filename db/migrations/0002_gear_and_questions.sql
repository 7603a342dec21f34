-- Up Migration

-- The studio's gear. What is deleted stays for undoing, and for chains that used it.
CREATE TABLE gear (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  owner_id uuid NOT NULL REFERENCES account,
  name text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  kind text NOT NULL CHECK (kind IN ('microphone', 'capsule', 'booster', 'pad', 'transformer',
    'preamp', 'strip', 'converter', 'accessory')),
  maker text NOT NULL DEFAULT '' CHECK (length(maker) <= 80),
  specs jsonb NOT NULL DEFAULT '{}',
  price_cents bigint CHECK (price_cents BETWEEN 0 AND 1000000000),
  ownership text NOT NULL DEFAULT 'owned'
    CHECK (ownership IN ('owned', 'on loan', 'rented', 'considered')),
  condition text NOT NULL DEFAULT '' CHECK (length(condition) <= 300),
  notes text NOT NULL DEFAULT '' CHECK (length(notes) <= 2000),
  -- Practical marks out of five: build, mount, switches, features, service.
  scores jsonb NOT NULL DEFAULT '{}',
  -- Measured: frequency, ohm or dB, phase.
  impedance_curve jsonb,
  response_curve jsonb,
  simulated boolean NOT NULL DEFAULT false,
  version integer NOT NULL DEFAULT 1,
  created_at timestamptz NOT NULL,
  deleted_at timestamptz
);
CREATE UNIQUE INDEX gear_name ON gear (owner_id, lower(name)) WHERE deleted_at IS NULL;

CREATE TABLE gear_accessory (
  gear_id uuid NOT NULL REFERENCES gear ON DELETE CASCADE,
  accessory_id uuid NOT NULL REFERENCES gear ON DELETE CASCADE,
  PRIMARY KEY (gear_id, accessory_id),
  CHECK (gear_id <> accessory_id)
);

ALTER TABLE chain
  ADD COLUMN distance_m double precision CHECK (distance_m BETWEEN 0.001 AND 1000),
  ADD COLUMN angle_deg double precision CHECK (angle_deg BETWEEN -180 AND 180),
  -- One microphone, a stereo pair (array, spacing, opening), or a blend with another chain (ratio).
  ADD COLUMN shape jsonb NOT NULL DEFAULT '{"kind": "single"}',
  ADD COLUMN deleted_at timestamptz,
  -- The take it had when it was deleted, for undoing.
  ADD COLUMN former_take_id uuid REFERENCES take ON DELETE SET NULL;
DROP INDEX chain_name;
CREATE UNIQUE INDEX chain_name ON chain (comparison_id, lower(name)) WHERE deleted_at IS NULL;

CREATE TABLE chain_item (
  chain_id uuid NOT NULL REFERENCES chain ON DELETE CASCADE,
  position integer NOT NULL CHECK (position >= 0),
  gear_id uuid NOT NULL REFERENCES gear,
  settings jsonb NOT NULL DEFAULT '{}',
  PRIMARY KEY (chain_id, position)
);
CREATE INDEX chain_item_gear ON chain_item (gear_id);

-- Sources with their passages and levels, contexts, budget, must-haves, criteria, hypothesis, prediction.
ALTER TABLE comparison
  ADD COLUMN brief jsonb NOT NULL DEFAULT '{}',
  ADD COLUMN reference_chain_id uuid,
  ADD COLUMN deleted_at timestamptz,
  ADD FOREIGN KEY (reference_chain_id, id) REFERENCES chain (id, comparison_id);

-- Which chain was the studio's reference, since when, and why it changed.
CREATE TABLE reference_change (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  chain_name text NOT NULL,
  reason text NOT NULL CHECK (length(reason) <= 500),
  changed_at timestamptz NOT NULL
);

-- Cautions that were read; they stay on the page.
CREATE TABLE caution_read (
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  caution text NOT NULL CHECK (length(caution) BETWEEN 1 AND 60),
  account_id uuid NOT NULL REFERENCES account ON DELETE CASCADE,
  read_at timestamptz NOT NULL,
  PRIMARY KEY (comparison_id, caution)
);

-- Down Migration

DROP TABLE caution_read;
DROP TABLE reference_change;
ALTER TABLE comparison
  DROP COLUMN deleted_at, DROP COLUMN reference_chain_id, DROP COLUMN brief;
DROP TABLE chain_item;
DROP INDEX chain_name;
ALTER TABLE chain
  DROP COLUMN former_take_id, DROP COLUMN deleted_at, DROP COLUMN shape, DROP COLUMN angle_deg,
  DROP COLUMN distance_m;
CREATE UNIQUE INDEX chain_name ON chain (comparison_id, lower(name));
DROP TABLE gear_accessory;
DROP TABLE gear;

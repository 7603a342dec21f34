-- Up Migration

-- Whoever is limited sees only the comparisons that are listed for them.
ALTER TABLE account ADD COLUMN limited boolean NOT NULL DEFAULT false;
ALTER TABLE invitation ADD COLUMN limited boolean NOT NULL DEFAULT false;
CREATE TABLE account_comparison (
  account_id uuid NOT NULL REFERENCES account ON DELETE CASCADE,
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  PRIMARY KEY (account_id, comparison_id)
);
CREATE INDEX account_comparison_of ON account_comparison (comparison_id);

-- Which comparison it is, so that whoever is told of it is somebody who sees it.
CREATE OR REPLACE VIEW gear_use AS
  SELECT gear_id, owner_id, chain.name AS chain, comparison.title AS comparison, comparison.id AS comparison_id
  FROM chain_item JOIN chain ON chain.id = chain_item.chain_id AND chain.deleted_at IS NULL
    JOIN comparison ON comparison.id = chain.comparison_id AND comparison.deleted_at IS NULL;

-- Down Migration

DROP VIEW gear_use;
CREATE VIEW gear_use AS
  SELECT gear_id, owner_id, chain.name AS chain, comparison.title AS comparison
  FROM chain_item JOIN chain ON chain.id = chain_item.chain_id AND chain.deleted_at IS NULL
    JOIN comparison ON comparison.id = chain.comparison_id AND comparison.deleted_at IS NULL;

-- Nobody sees more on the way back: whoever saw some comparisons stays out until they are let in again.
UPDATE account SET ended_at = now() WHERE limited AND ended_at IS NULL;
DROP TABLE account_comparison;
ALTER TABLE invitation DROP COLUMN limited;
ALTER TABLE account DROP COLUMN limited;

-- Up Migration

-- Who or what is heard in a comparison; the first one is its own. A name belongs to one row and can be changed.
CREATE TABLE source (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  position integer NOT NULL CHECK (position >= 0),
  name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
  -- How its takes are captured.
  capture text NOT NULL DEFAULT 'at once' CHECK (length(capture) BETWEEN 1 AND 40),
  -- Passages that are meant to be recorded, as they were written down.
  passages text NOT NULL DEFAULT '' CHECK (length(passages) <= 300),
  UNIQUE (id, comparison_id),
  UNIQUE (comparison_id, position) DEFERRABLE INITIALLY DEFERRED
);
INSERT INTO source (comparison_id, position, name, capture)
  SELECT id, 0, source_name, coalesce(brief->>'capture', 'at once') FROM comparison;
INSERT INTO source (comparison_id, position, name, capture, passages)
  SELECT comparison.id, number, further->>'name', coalesce(further->>'capture', 'at once'),
    coalesce(further->>'passages', '')
  FROM comparison,
    jsonb_array_elements(coalesce(brief->'furtherSources', '[]')) WITH ORDINALITY AS one (further, number);
-- Names that takes, passages and run lines still carry after their source was renamed or removed.
INSERT INTO source (comparison_id, position, name)
  SELECT comparison_id,
    (SELECT max(position) FROM source WHERE source.comparison_id = orphan.comparison_id)
      + row_number() OVER (PARTITION BY comparison_id ORDER BY source_name),
    source_name
  FROM (SELECT comparison_id, source_name FROM take
    UNION SELECT comparison_id, source_name FROM passage
    UNION SELECT comparison_id, source_name FROM run_line) AS orphan
  WHERE source_name IS NOT NULL AND NOT EXISTS (SELECT 1 FROM source
    WHERE source.comparison_id = orphan.comparison_id AND name = source_name AND position > 0);

CREATE FUNCTION pg_temp.source_of(uuid, text) RETURNS uuid LANGUAGE sql STABLE AS $$
  SELECT id FROM source WHERE comparison_id = $1
    AND CASE WHEN $2 IS NULL THEN position = 0 ELSE position > 0 AND name = $2 END
  ORDER BY position LIMIT 1 $$;

ALTER TABLE take ADD COLUMN source_id uuid;
UPDATE take SET source_id = pg_temp.source_of(comparison_id, source_name);
ALTER TABLE take ALTER COLUMN source_id SET NOT NULL,
  ADD FOREIGN KEY (source_id, comparison_id) REFERENCES source (id, comparison_id);
DROP INDEX take_picked;
CREATE UNIQUE INDEX take_picked ON take (chain_id, source_id) WHERE picked;
-- The takes a passage is cut from, and whether a source may go.
CREATE INDEX take_source ON take (source_id);
ALTER TABLE take DROP COLUMN source_name;

ALTER TABLE passage ADD COLUMN source_id uuid;
UPDATE passage SET source_id = pg_temp.source_of(comparison_id, source_name);
ALTER TABLE passage ALTER COLUMN source_id SET NOT NULL,
  ADD FOREIGN KEY (source_id, comparison_id) REFERENCES source (id, comparison_id),
  DROP COLUMN source_name;
CREATE INDEX passage_source ON passage (source_id);

ALTER TABLE run_line ADD COLUMN source_id uuid;
UPDATE run_line SET source_id = pg_temp.source_of(comparison_id, source_name);
ALTER TABLE run_line ALTER COLUMN source_id SET NOT NULL,
  ADD FOREIGN KEY (source_id, comparison_id) REFERENCES source (id, comparison_id),
  DROP COLUMN source_name;
CREATE INDEX run_line_source ON run_line (source_id);

UPDATE bench_order SET plan = plan - 'sourceName'
  || jsonb_build_object('sourceId', pg_temp.source_of(comparison_id, plan->>'sourceName'))
  WHERE state = 'waiting';
UPDATE comparison SET brief = brief - 'capture' - 'furtherSources';
ALTER TABLE comparison DROP COLUMN source_name;
DROP FUNCTION pg_temp.source_of(uuid, text);

-- Down Migration

CREATE FUNCTION pg_temp.name_of(uuid) RETURNS text LANGUAGE sql STABLE AS $$
  SELECT CASE WHEN position > 0 THEN name END FROM source WHERE id = $1 $$;

ALTER TABLE comparison ADD COLUMN source_name text CHECK (length(source_name) BETWEEN 1 AND 120);
UPDATE comparison SET source_name = source.name,
  brief = brief || jsonb_build_object('capture', source.capture, 'furtherSources',
    (SELECT coalesce(jsonb_agg(jsonb_build_object('name', further.name, 'capture', further.capture,
       'passages', further.passages) ORDER BY further.position), '[]')
     FROM source further WHERE further.comparison_id = comparison.id AND further.position > 0))
  FROM source WHERE source.comparison_id = comparison.id AND source.position = 0;
ALTER TABLE comparison ALTER COLUMN source_name SET NOT NULL;
UPDATE bench_order SET plan = plan - 'sourceId'
  || jsonb_build_object('sourceName', pg_temp.name_of((plan->>'sourceId')::uuid))
  WHERE plan ? 'sourceId';

ALTER TABLE take ADD COLUMN source_name text CHECK (length(source_name) BETWEEN 1 AND 120);
UPDATE take SET source_name = pg_temp.name_of(source_id);
ALTER TABLE take DROP COLUMN source_id;
CREATE UNIQUE INDEX take_picked ON take (chain_id, coalesce(source_name, '')) WHERE picked;

ALTER TABLE passage ADD COLUMN source_name text CHECK (length(source_name) BETWEEN 1 AND 120);
UPDATE passage SET source_name = pg_temp.name_of(source_id);
ALTER TABLE passage DROP COLUMN source_id;

ALTER TABLE run_line ADD COLUMN source_name text;
UPDATE run_line SET source_name = pg_temp.name_of(source_id);
ALTER TABLE run_line DROP COLUMN source_id;
DROP TABLE source;
DROP FUNCTION pg_temp.name_of(uuid);

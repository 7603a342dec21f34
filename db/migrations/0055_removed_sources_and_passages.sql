-- Up Migration

-- A source or a passage that was removed, as it stood; takes lie in a passage as they were placed there.
CREATE TABLE removed_source (
  id uuid PRIMARY KEY,
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  name text NOT NULL,
  row jsonb NOT NULL,
  deleted_at timestamptz NOT NULL
);
CREATE INDEX removed_source_of ON removed_source (comparison_id, deleted_at);
CREATE TABLE removed_passage (
  id uuid PRIMARY KEY,
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  name text NOT NULL,
  row jsonb NOT NULL,
  placings jsonb NOT NULL,
  deleted_at timestamptz NOT NULL
);
CREATE INDEX removed_passage_of ON removed_passage (comparison_id, deleted_at);

-- Of matching: where takes were placed by hand, whole.
CREATE VIEW passage_placing AS SELECT passage_id, to_jsonb(take_placing) AS row FROM take_placing;

-- Down Migration

-- Nothing is lost on the way back: what lay in the bin is there again, behind the others.
INSERT INTO source SELECT (jsonb_populate_record(NULL::source, removed.row || jsonb_build_object('position',
    (SELECT coalesce(max(position), -1) FROM source WHERE source.comparison_id = removed.comparison_id)
      + row_number() OVER (PARTITION BY comparison_id ORDER BY deleted_at)))).*
  FROM removed_source AS removed;
INSERT INTO passage SELECT (jsonb_populate_record(NULL::passage, removed.row || jsonb_build_object('position',
    (SELECT coalesce(max(position), -1) FROM passage WHERE passage.comparison_id = removed.comparison_id)
      + row_number() OVER (PARTITION BY comparison_id ORDER BY deleted_at),
    'source_id', coalesce((SELECT id FROM source WHERE id = (removed.row->>'source_id')::uuid),
      (SELECT id FROM source WHERE source.comparison_id = removed.comparison_id ORDER BY position LIMIT 1))))).*
  FROM removed_passage AS removed;
INSERT INTO take_placing SELECT placed.* FROM removed_passage, jsonb_populate_recordset(NULL::take_placing, placings) AS placed
  WHERE EXISTS (SELECT 1 FROM take WHERE take.id = placed.take_id);
DROP VIEW passage_placing;
DROP TABLE removed_passage, removed_source;

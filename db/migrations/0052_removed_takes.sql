-- Up Migration

-- A take that was removed, as it stood, with what was said of its checks; its sound stays until it is erased.
CREATE TABLE removed_take (
  id uuid PRIMARY KEY,
  comparison_id uuid NOT NULL REFERENCES comparison ON DELETE CASCADE,
  audio_id bigint NOT NULL REFERENCES audio,
  file_name text NOT NULL,
  row jsonb NOT NULL,
  overrides jsonb NOT NULL,
  deleted_at timestamptz NOT NULL
);
-- What was removed lately, of one comparison; and what is old enough to be erased.
CREATE INDEX removed_take_of ON removed_take (comparison_id, deleted_at);
CREATE INDEX removed_take_old ON removed_take (deleted_at);
CREATE INDEX removed_take_audio ON removed_take (audio_id);

CREATE OR REPLACE VIEW audio_use AS
  SELECT audio_id FROM take UNION ALL SELECT audio_id FROM upload UNION ALL SELECT audio_id FROM archive
  UNION ALL SELECT master_audio_id FROM clip UNION ALL SELECT master_audio_id FROM settling_clip
  UNION ALL SELECT audio_id FROM removed_take;

-- Down Migration

CREATE OR REPLACE VIEW audio_use AS
  SELECT audio_id FROM take UNION ALL SELECT audio_id FROM upload UNION ALL SELECT audio_id FROM archive
  UNION ALL SELECT master_audio_id FROM clip UNION ALL SELECT master_audio_id FROM settling_clip;
-- Nothing is lost on the way back: what lay in the bin is among the takes again, without a chain.
INSERT INTO take SELECT (jsonb_populate_record(NULL::take, row ||
    '{"chain_id": null, "former_chain_id": null, "picked": false, "nearest": false, "foremost": false}')).*
  FROM removed_take ON CONFLICT DO NOTHING;
DROP TABLE removed_take;

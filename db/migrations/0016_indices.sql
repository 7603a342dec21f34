-- Up Migration

-- What somebody of the panel did so far (the panel, and forgetting them).
CREATE INDEX listener_of ON listener (panelist_id) WHERE panelist_id IS NOT NULL;
-- Links of somebody of the panel (forgetting them).
CREATE INDEX listener_link_of ON listener_link (panelist_id);
-- Progress of one row's work (screens that wait for it), and of one job (the worker that reports it).
CREATE INDEX work_subject ON work (subject_id, state);
CREATE INDEX work_job ON work (job_id);
-- Whether bytes are still a take's, an archive's or a clip's, before they are dropped.
CREATE INDEX take_audio ON take (audio_id);
CREATE INDEX archive_audio ON archive (audio_id);
CREATE INDEX clip_audio ON clip (master_audio_id);
CREATE INDEX settling_clip_audio ON settling_clip (master_audio_id);
-- Whether clips were made of a take, before it goes; clips of a chain, before that goes.
CREATE INDEX clip_take ON clip (take_id);
CREATE INDEX clip_chain ON clip (chain_id);
-- Where a take was laid by hand; a passage is the first part of the key.
CREATE INDEX take_placing_take ON take_placing (take_id);
-- Sets of a passage (the picker, and whether it may go).
CREATE INDEX clip_set_passage ON clip_set (passage_id);
-- Takes that an older version measured, for measuring them again.
CREATE INDEX take_facts_version ON take ((coalesce((facts->>'version')::int, 1))) WHERE state = 'ready';
-- Lines of a chain that is removed.
CREATE INDEX run_line_chain ON run_line (chain_id);
-- Packs of a set.
CREATE INDEX blind_pack_set ON blind_pack (clip_set_id);

-- Down Migration

DROP INDEX listener_of, listener_link_of, work_subject, work_job, take_audio, archive_audio, clip_audio,
  settling_clip_audio, clip_take, clip_chain, take_placing_take, clip_set_passage, run_line_chain,
  take_facts_version,
  blind_pack_set;

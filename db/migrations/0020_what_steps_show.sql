-- Up Migration

-- What a step shows to those before it, so that no statement of theirs has to know its tables.

-- Of chains: where gear stands in.
CREATE VIEW gear_use AS
  SELECT gear_id, owner_id, chain.name AS chain, comparison.title AS comparison
  FROM chain_item JOIN chain ON chain.id = chain_item.chain_id AND chain.deleted_at IS NULL
    JOIN comparison ON comparison.id = chain.comparison_id AND comparison.deleted_at IS NULL;

-- Of matching: what clips were made of.
CREATE VIEW chain_use AS
  SELECT comparison_id, reference_chain_id AS chain_id FROM clip_set
  UNION ALL SELECT comparison_id, chain_id FROM clip;
CREATE VIEW passage_use AS SELECT passage_id FROM clip_set;
CREATE VIEW take_use AS SELECT take_id FROM clip;

-- Of takes and matching: whose bytes are kept.
CREATE VIEW audio_use AS
  SELECT audio_id FROM take UNION ALL SELECT audio_id FROM upload UNION ALL SELECT audio_id FROM archive
  UNION ALL SELECT master_audio_id FROM clip UNION ALL SELECT master_audio_id FROM settling_clip;

-- Of sittings: what listeners gave, and which clips they are asked about.
CREATE VIEW comparison_paid AS
  SELECT comparison_id, coalesce(sum((SELECT count(*) FROM answer WHERE sitting_id = sitting.id)), 0)::int AS answers,
    (count(*) FILTER (WHERE state = 'open'))::int AS open_sittings
  FROM sitting WHERE NOT rehearsal GROUP BY comparison_id;
CREATE VIEW clip_set_use AS
  SELECT clip_set_id, sitting_id FROM part JOIN sitting ON sitting.id = sitting_id WHERE NOT rehearsal;
CREATE VIEW panel_seat AS
  SELECT panelist_id, id AS listener_id, simulated, consented_at FROM listener WHERE panelist_id IS NOT NULL;
CREATE VIEW listener_given AS
  SELECT listener_id, count(*) AS answers, sum(duration_s) AS seconds, max(answered_at) AS at
  FROM answer GROUP BY listener_id;

-- Of listening: the devices of a seat.
CREATE VIEW listener_device AS SELECT listener_id, first_seen_at FROM seat_device;

-- Down Migration

DROP VIEW gear_use, chain_use, passage_use, take_use, audio_use, comparison_paid, clip_set_use, panel_seat,
  listener_given, listener_device;

-- Up Migration

-- Whom a second reading of the results leaves out, by a rule that is sealed with the plan; null for no such ground.
ALTER TABLE sitting ADD COLUMN set_aside jsonb NOT NULL
  DEFAULT '{"answeredPct": null, "hastyPct": null, "alikePct": null, "louderPct": null}';

-- Down Migration

ALTER TABLE sitting DROP COLUMN set_aside;

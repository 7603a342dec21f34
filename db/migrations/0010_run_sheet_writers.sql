-- Up Migration

-- Who wrote a line last, and what another device had written that lost against it.
ALTER TABLE run_line
  ADD COLUMN written_by text NOT NULL DEFAULT '' CHECK (length(written_by) <= 40),
  ADD COLUMN other jsonb;
-- Nothing was written later than now; a wrong clock would hold off every entry to come.
UPDATE run_line SET written_at = now() WHERE written_at > now();

-- Down Migration

ALTER TABLE run_line DROP COLUMN written_by, DROP COLUMN other;

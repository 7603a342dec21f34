-- Up Migration

-- Where a knob without a scale in dB stood; its gain is known where a data sheet says it of that position.
ALTER TABLE run_line ADD COLUMN knob text NOT NULL DEFAULT '' CHECK (length(knob) <= 20);

-- Down Migration

ALTER TABLE run_line DROP COLUMN knob;

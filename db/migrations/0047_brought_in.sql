-- Up Migration

-- Results of another program, brought in as a sitting of their own: the file as it came, its name and its SHA-256.
ALTER TABLE sitting
  ADD COLUMN brought_file text,
  ADD COLUMN brought_sha256 text CHECK (brought_sha256 ~ '^[0-9a-f]{64}$'),
  ADD COLUMN brought_csv bytea,
  ADD CONSTRAINT sitting_brought_in CHECK ((brought_file IS NULL) = (brought_sha256 IS NULL)
    AND (brought_file IS NULL) = (brought_csv IS NULL) AND (brought_file IS NULL OR blind_pack_id IS NULL));

-- Down Migration

ALTER TABLE sitting DROP CONSTRAINT sitting_brought_in;
ALTER TABLE sitting DROP COLUMN brought_csv, DROP COLUMN brought_sha256, DROP COLUMN brought_file;

-- Up Migration

-- What matters, as it happened: who sealed, broke, closed, heard by name, took out, forgot, let in. Each entry holds
-- the number of the one before it, so that none can be changed or left out unseen.
CREATE TABLE event (
  -- Of a studio, whatever becomes of its accounts.
  studio_id uuid NOT NULL,
  n bigint NOT NULL CHECK (n >= 1),
  at timestamptz NOT NULL,
  action text NOT NULL,
  -- As it was hashed.
  record text NOT NULL,
  sha256 text NOT NULL CHECK (length(sha256) = 64),
  PRIMARY KEY (studio_id, n)
);

CREATE FUNCTION event_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'what stands in the log stays';
END $$;
CREATE TRIGGER event_stays BEFORE UPDATE OR DELETE ON event FOR EACH ROW EXECUTE FUNCTION event_stays();
CREATE TRIGGER event_whole BEFORE TRUNCATE ON event FOR EACH STATEMENT EXECUTE FUNCTION event_stays();
REVOKE UPDATE, DELETE, TRUNCATE ON event FROM CURRENT_USER;

-- Down Migration

DROP TABLE event;
DROP FUNCTION event_stays();

-- Up Migration

-- Attempts that are limited (sign-in, codes, joining), counted per address or device; rows end by themselves.
CREATE TABLE attempt_limit (
  key varchar(255) PRIMARY KEY,
  points integer NOT NULL DEFAULT 0,
  expire bigint
);
CREATE INDEX attempt_limit_expire ON attempt_limit (expire);
DROP TABLE sign_in_failure, code_failure;

-- Devices on which somebody signed in before: what strangers try elsewhere does not lock them out.
CREATE TABLE known_device (
  account_id uuid NOT NULL REFERENCES account ON DELETE CASCADE,
  token_hash text NOT NULL,
  created_at timestamptz NOT NULL,
  PRIMARY KEY (account_id, token_hash)
);

-- Down Migration

DROP TABLE attempt_limit, known_device;
CREATE TABLE sign_in_failure (
  name text NOT NULL,
  at timestamptz NOT NULL
);
CREATE INDEX sign_in_failure_at ON sign_in_failure (at);
CREATE TABLE code_failure (at timestamptz NOT NULL);
CREATE INDEX code_failure_at ON code_failure (at);

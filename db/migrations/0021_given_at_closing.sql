-- Up Migration

-- What somebody gave to a sitting does not change once it is closed: it is summed then, and not on every look at the
-- panel. Null while it is open.
ALTER TABLE listener
  ADD COLUMN given_answers integer CHECK (given_answers >= 0),
  ADD COLUMN given_seconds double precision CHECK (given_seconds >= 0),
  ADD COLUMN given_at timestamptz;

UPDATE listener SET given_answers = given.answers, given_seconds = given.seconds, given_at = given.at
FROM (SELECT listener.id, count(answered_at)::int AS answers, coalesce(sum(duration_s), 0) AS seconds, max(answered_at) AS at
  FROM listener JOIN sitting ON sitting.id = listener.sitting_id AND state = 'closed'
    LEFT JOIN answer ON answer.listener_id = listener.id
  GROUP BY listener.id) AS given
WHERE listener.id = given.id;

CREATE OR REPLACE VIEW listener_given AS
  SELECT listener.id AS listener_id, coalesce(given_answers::bigint, live.answers) AS answers,
    coalesce(given_seconds, live.seconds) AS seconds, coalesce(given_at, live.at) AS at
  FROM listener LEFT JOIN LATERAL (
    SELECT count(*) AS answers, sum(duration_s) AS seconds, max(answered_at) AS at
    FROM answer WHERE answer.listener_id = listener.id AND listener.given_answers IS NULL) AS live ON true;

-- Down Migration

CREATE OR REPLACE VIEW listener_given AS
  SELECT listener_id, count(*) AS answers, sum(duration_s) AS seconds, max(answered_at) AS at
  FROM answer GROUP BY listener_id;
ALTER TABLE listener DROP COLUMN given_answers, DROP COLUMN given_seconds, DROP COLUMN given_at;

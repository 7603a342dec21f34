-- Up Migration

-- Somebody who reads results and reports, and nothing else.
ALTER TABLE account DROP CONSTRAINT account_role_check,
  ADD CONSTRAINT account_role_check CHECK (role IN ('owner', 'engineer', 'conductor', 'reader'));
ALTER TABLE invitation DROP CONSTRAINT invitation_role_check,
  ADD CONSTRAINT invitation_role_check CHECK (role IN ('engineer', 'conductor', 'reader'));

-- Down Migration

-- A conductor sees no more than a reader could do.
UPDATE account SET role = 'conductor', ended_at = coalesce(ended_at, now()) WHERE role = 'reader';
DELETE FROM invitation WHERE role = 'reader';
ALTER TABLE account DROP CONSTRAINT account_role_check,
  ADD CONSTRAINT account_role_check CHECK (role IN ('owner', 'engineer', 'conductor'));
ALTER TABLE invitation DROP CONSTRAINT invitation_role_check,
  ADD CONSTRAINT invitation_role_check CHECK (role IN ('engineer', 'conductor'));

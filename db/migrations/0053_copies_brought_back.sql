-- Up Migration

-- Why a copy that somebody wanted back did not come back; null where none was wanted, or it did.
ALTER TABLE bank_copy ADD COLUMN restore_failed text;

-- Down Migration

ALTER TABLE bank_copy DROP COLUMN restore_failed;

-- Up Migration

-- Whether listeners are told the names, decided and sealed before the first answer. So far all could take the key.
ALTER TABLE sitting ADD COLUMN reveal text NOT NULL DEFAULT 'after closing' CHECK (reveal IN ('never', 'after closing'));

-- Down Migration

ALTER TABLE sitting DROP COLUMN reveal;

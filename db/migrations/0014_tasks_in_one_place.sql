-- Up Migration

-- Which tasks there are, and what each asks, stands in the program alone: every check that names a task goes.
DO $$
DECLARE named record;
BEGIN
  FOR named IN
    SELECT conname FROM pg_constraint
    WHERE conrelid = 'part'::regclass AND contype = 'c' AND pg_get_constraintdef(oid) LIKE '%task%'
  LOOP
    EXECUTE format('ALTER TABLE part DROP CONSTRAINT %I', named.conname);
  END LOOP;
END $$;
ALTER TABLE part ADD CONSTRAINT part_adaptive_check
  CHECK (NOT adaptive OR (first_chain_id IS NULL AND control_repeats = 0));

-- Down Migration

-- Parts of tasks that were added since stay as they are.
ALTER TABLE part DROP CONSTRAINT part_adaptive_check,
  ADD CONSTRAINT part_task_check CHECK (task IN
    ('pair', 'line', 'reference', 'duo-trio', 'triangle', 'two-interval', 'memory', 'words')) NOT VALID,
  ADD CHECK ((task = 'words') = (cardinality(words) > 0)) NOT VALID,
  ADD CHECK (NOT adaptive OR (task = 'pair' AND first_chain_id IS NULL AND control_repeats = 0)) NOT VALID;

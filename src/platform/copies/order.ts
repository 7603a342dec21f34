import { z } from 'zod';

/** What a copy in the folder may be called. */
export const COPY_FILE = /^[\w.-]+\.zip$/;

/** What the web server asks of the process that started it: only that one can stop everything and start it again. */
export const restoreOrder = z.object({
  restore: z.object({
    copyId: z.uuid(),
    /** In the folder of copies. */
    file: z.string().regex(COPY_FILE),
    /** Who asked. */
    by: z.string(),
  }),
});
export type RestoreOrder = z.infer<typeof restoreOrder>;

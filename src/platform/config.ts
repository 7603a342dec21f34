import { z } from 'zod';

const environment = z.object({
  DATABASE_URL: z.string().startsWith('postgres'),
  /** Folder on whose disk the database lies, where it is this machine's. */
  ZEITBANK_STORE: z.string().optional(),
  /** Set when the application is reached through https, so that cookies are marked for it. */
  ZEITBANK_HTTPS: z.enum(['0', '1']).default('0'),
});

/** Read when first needed, so that a build needs no database. */
export function config(): z.infer<typeof environment> {
  return environment.parse(process.env);
}

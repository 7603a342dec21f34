import { z } from 'zod';

const environment = z.object({
  DATABASE_URL: z.string().startsWith('postgres'),
  /** Folder on whose disk the database lies, where it is this machine's. */
  ZEITBANK_STORE: z.string().optional(),
  /** Folder of the copies that are made by night; none where it is not named. */
  ZEITBANK_COPIES: z.string().optional(),
  /** Where the program lies, and what locks copies; as it is told when it starts. */
  ZEITBANK_ROOT: z.string().default('.'),
  /** Port of this machine on which figures for whoever watches it are told; none where it is not named. */
  ZEITBANK_METRICS_PORT: z.coerce.number().int().min(1).max(65_535).optional(),
  ZEITBANK_PASSPHRASE: z.string().min(1).optional(),
  /** How long anybody waits for a connection before the bank is called away. */
  DATABASE_WAIT_MS: z.coerce.number().int().positive().default(10_000),
  /** Where this machine reaches the web server, for what it asks of itself. */
  ZEITBANK_ITSELF: z.url().default('http://127.0.0.1:3000'),
  /** Set when the application is reached through https, so that cookies are marked for it. */
  ZEITBANK_HTTPS: z.enum(['0', '1']).default('0'),
});

/** Read when first needed, so that a build needs no database. */
export function config(): z.infer<typeof environment> {
  return environment.parse(process.env);
}

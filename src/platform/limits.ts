import { createHash } from 'node:crypto';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { pool } from './database';

const QUARTER_S = 15 * 60;

/** How often something may be tried, by whom, before it has to wait. */
const LIMITS = {
  /** Passwords tried from one address on devices that nobody here signed in on. */
  'sign-in by address': { points: 30, seconds: QUARTER_S },
  /** Passwords tried for one name, from all such devices together. */
  'sign-in by name': { points: 10, seconds: QUARTER_S },
  /** Passwords tried on a device where this person signed in before. */
  'sign-in on a known device': { points: 20, seconds: QUARTER_S },
  'setup word': { points: 20, seconds: QUARTER_S },
  /** Short codes that led nowhere, from one address. */
  code: { points: 60, seconds: QUARTER_S },
  /** Seats of one sitting taken from one address. */
  joining: { points: 40, seconds: 10 * 60 },
} as const;
export type Limit = keyof typeof LIMITS;

const shared = globalThis as { zeitbankLimits?: Map<Limit, RateLimiterPostgres> };

function limiter(limit: Limit): RateLimiterPostgres {
  const made = (shared.zeitbankLimits ??= new Map<Limit, RateLimiterPostgres>());
  let one = made.get(limit);
  if (!one) {
    const { points, seconds } = LIMITS[limit];
    one = new RateLimiterPostgres({
      storeClient: { query: (query: string) => pool().query(query) },
      storeType: 'client',
      tableName: 'attempt_limit',
      tableCreated: true,
      clearExpiredByTimeout: true,
      keyPrefix: limit,
      points,
      duration: seconds,
    });
    made.set(limit, one);
  }
  return one;
}

/** Who is counted: no addresses or names lie in the table. */
const keyOf = (who: string) => createHash('sha256').update(who).digest('base64url').slice(0, 32);

/** Counts one attempt before it is made. @returns whether it may be made */
export async function mayTry(limit: Limit, who: string): Promise<boolean> {
  try {
    await limiter(limit).consume(keyOf(who));
    return true;
  } catch (refused) {
    if (refused instanceof RateLimiterRes) return false;
    throw refused;
  }
}

/** An attempt that was right counts for nothing. */
export async function takeBack(limit: Limit, who: string): Promise<void> {
  await limiter(limit).reward(keyOf(who));
}

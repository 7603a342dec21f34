/**
 * Something a person can be told in one sentence: what happened, what was kept, what to do.
 * `status` is the HTTP status it becomes.
 */
export class UserError extends Error {
  override name = 'UserError';

  constructor(
    readonly status: 400 | 401 | 403 | 404 | 409 | 413 | 422 | 429 | 503,
    message: string,
  ) {
    super(message);
  }
}

export function notFound(what: string): UserError {
  return new UserError(404, `This ${what} is not here; perhaps it was removed.`);
}

const AWAY_CODES = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ENOTFOUND',
  'ETIMEDOUT',
  '57P01',
  '57P02',
  '57P03',
  '08006',
  '08001',
  '53300',
]);

/** Said wherever there is no room left to store anything. */
export const STORE_FULL =
  'The disk of the bank is full. What was stored before is kept, nothing of this was; make room, then try again.';

/** Whether an error says that the disk is full, the database's or our own. */
export function isStoreFull(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const { code } = error as NodeJS.ErrnoException;
  return code === '53100' || code === 'ENOSPC' || /No space left on device/.test(error.message);
}

/** Whether an error says that PostgreSQL cannot be reached just now. */
export function isDatabaseAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const { code } = error as NodeJS.ErrnoException;
  if (code !== undefined && AWAY_CODES.has(code)) return true;
  if (error instanceof AggregateError) return error.errors.some(isDatabaseAway);
  // An error that crossed a thread keeps its message only.
  return /terminating connection|Connection terminated|ECONNREFUSED|ECONNRESET|the database system is|timeout exceeded when trying to connect/.test(
    error.message,
  );
}

/** Null where something is not found; every other failure stays one. */
export function nullWhenMissing(error: unknown): null {
  if (error instanceof UserError && error.status === 404) return null;
  throw error;
}

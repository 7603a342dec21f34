/** How long what was removed is offered again. Nothing that answers depend on is erased after that either. */
export const BIN_DAYS = 30;

const DAY_MS = 24 * 3600 * 1000;

/** What was removed since then can be put back where it was. */
export const binSince = (now: Date): Date => new Date(now.getTime() - BIN_DAYS * DAY_MS);

import { randomBytes } from 'node:crypto';

/** What the link to a sitting cannot be guessed by. */
export const sittingToken = (): string => randomBytes(12).toString('base64url');

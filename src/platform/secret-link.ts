import { createHash, randomBytes } from 'node:crypto';

/** The secret of a link or a device; whoever has it may do what it stands for. */
export const freshToken = (): string => randomBytes(24).toString('base64url');

/** What of a secret is stored: enough to know it again, too little to use it. */
export const hashOfToken = (token: string): string =>
  createHash('sha256').update(token).digest('hex');

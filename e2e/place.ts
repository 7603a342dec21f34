import os from 'node:os';
import path from 'node:path';

/** Where the bank of these tests lies; by hand it is kept from one run to the next. */
export const BANK = process.env.E2E_DATA ?? path.join(os.tmpdir(), 'zeitbank-e2e');

import { statfsSync } from 'node:fs';
import os from 'node:os';
import { failureOf } from './failure';
import { requireSpace } from './disk-space';

const { bavail, bsize } = statfsSync(os.tmpdir());
const free = bavail * bsize;

describe('space on the disk', () => {
  afterEach(() => {
    delete process.env.ZEITBANK_STORE;
  });

  it('is not asked for where the database lies elsewhere', async () => {
    await expect(requireSpace(2 * free)).resolves.toBeUndefined();
  });

  it('keeps half a gigabyte for the database, and says so in a sentence', async () => {
    process.env.ZEITBANK_STORE = os.tmpdir();
    await expect(requireSpace(1000)).resolves.toBeUndefined();
    const refused = await requireSpace(free - 2 ** 28).catch((error: unknown) => error);
    expect(failureOf(refused)).toMatchObject({ status: 507 });
    expect(failureOf(refused).message).toContain('What was stored before is kept');
  });
});

import { statfsSync } from 'node:fs';
import os from 'node:os';
import { failureOf } from './failure';
import { requireRoom } from './room';

const { bavail, bsize } = statfsSync(os.tmpdir());
const free = bavail * bsize;

describe('room on the disk', () => {
  afterEach(() => {
    delete process.env.ZEITBANK_STORE;
  });

  it('is not asked for where the database lies elsewhere', async () => {
    await expect(requireRoom(2 * free)).resolves.toBeUndefined();
  });

  it('keeps half a gigabyte for the database, and says so in a sentence', async () => {
    process.env.ZEITBANK_STORE = os.tmpdir();
    await expect(requireRoom(1000)).resolves.toBeUndefined();
    const refused = await requireRoom(free - 2 ** 28).catch((error: unknown) => error);
    expect(failureOf(refused)).toMatchObject({ status: 507 });
    expect(failureOf(refused).message).toContain('What was stored before is kept');
  });
});

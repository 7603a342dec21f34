import { silentFlac } from '@/core/test/silent-flac';
import { putAudio } from '@/platform/audio-store';
import { db, transaction } from '@/platform/database';
import { NOON, withTestDatabase } from '@/platform/test/database';
import { inspectTake } from './tasks/inspect';

withTestDatabase();

const SAMPLES = 65535;
const audios = () => db().rows<{ id: number }>('SELECT id FROM audio');

async function inspected(file: Buffer) {
  const audioId = await transaction((tx) => putAudio(tx, file, NOON));
  return inspectTake({ audioId, channels: null });
}

it('reads what an honest small file holds', async () => {
  const found = await inspected(silentFlac(3, 2, 3 * SAMPLES));
  expect(found).toMatchObject({ outcome: 'ready', facts: { frames: 3 * SAMPLES, channels: 2 } });
});

describe('a file that would grow beyond all measure is refused', () => {
  it.each([
    ['before anything is decoded, when it says so itself', silentFlac(9, 8, 2 ** 35)],
    ['while it is decoded, when it says nothing', silentFlac(2000, 8, 0)],
    ['when it holds more than it says', silentFlac(600, 2, 1000)],
  ])('%s', async (_, file) => {
    expect(file.length).toBeLessThan(100_000);
    const before = await audios();
    let peak = 0;
    const watch = setInterval(() => (peak = Math.max(peak, process.memoryUsage().rss)), 5);
    const start = process.memoryUsage().rss;
    const found = await inspected(file);
    clearInterval(watch);
    expect(found).toMatchObject({ outcome: 'refused' });
    expect(JSON.stringify(found)).toMatch(/far more than sound can be packed|is damaged/);
    // Only the file itself is left, and memory stayed within bounds (unbounded it took gigabytes).
    expect((await audios()).length).toBe(before.length + 1);
    expect((peak - start) / 2 ** 20).toBeLessThan(700);
  });
});

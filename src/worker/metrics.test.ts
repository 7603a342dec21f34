import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { db, transaction } from '@/platform/database';
import { enqueue } from '@/platform/jobs';
import { log } from '@/platform/log';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { createComparison } from '@/steps/comparisons/service';
import { answeredSitting } from '@/steps/test/answered';
import { bankWithClips } from '@/steps/test/bank';
import { bankMetrics, serveMetrics } from './metrics';

withTestDatabase();

const LATER = new Date(NOON.getTime() + 3_600_000);
const value = (text: string, name: string) => {
  const line = text.split('\n').find((one) => one.startsWith(`${name} `));
  return line === undefined ? null : Number(line.slice(name.length + 1));
};
const told = () => bankMetrics(() => LATER).text();

/** A port that is free now. */
async function freePort(): Promise<number> {
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  await new Promise((resolve) => server.close(resolve));
  return port;
}

it('tells of an empty bank what there is, and leaves out what there is not', async () => {
  const text = await told();
  expect(value(text, 'zeitbank_work{state="waiting"}')).toBe(0);
  expect(value(text, 'zeitbank_work_waiting_seconds')).toBe(0);
  expect(value(text, 'zeitbank_database_bytes')).toBeGreaterThan(1e6);
  expect(value(text, 'zeitbank_copy_age_seconds')).toBeNull();
  expect(value(text, 'zeitbank_copy_tried_well')).toBeNull();
});

it('counts jobs that wait, and the age and trial of the last copy', async () => {
  const engineer = await testEngineer('Mirela Voss');
  const id = await createComparison(
    engineer,
    { title: 'Secretly named', question: '', sourceName: 'Nobody’s voice', passageName: 'all' },
    NOON,
  );
  const at = new Date(LATER.getTime() - 120_000);
  await transaction((tx) =>
    enqueue(tx, 'analyse-sitting', { comparisonId: id, subjectId: id, label: 'a job' }, at),
  );
  await db().rows(
    `INSERT INTO bank_copy (asked_at, begun_at, made_at, file, bytes, tested_at, test_failed)
     VALUES ($1, $1, $1, 'a.zip', 5000, $1, 'a sound is another')`,
    [NOON],
  );
  const text = await told();
  expect(value(text, 'zeitbank_work{state="waiting"}')).toBe(1);
  expect(value(text, 'zeitbank_work_waiting_seconds')).toBe(120);
  expect(value(text, 'zeitbank_copy_age_seconds')).toBe(3600);
  expect(value(text, 'zeitbank_copy_bytes')).toBe(5000);
  expect(value(text, 'zeitbank_copy_tried_well')).toBe(0);
  // Figures alone.
  expect(text).not.toMatch(/Mirela|Secretly|Nobody|a job/);
});

it('counts the answers that were written', async () => {
  const engineer = await testEngineer('Ossian Falk');
  const { comparisonId, chainIds } = await bankWithClips(engineer);
  const before = value(await told(), 'zeitbank_answers_total')!;
  await answeredSitting(engineer, comparisonId, {
    aliases: ['a', 'b'],
    liking: chainIds,
    parts: [{ trials: 3 }],
  });
  // The database counts a little later.
  let written = 0;
  for (let look = 0; look < 100 && written < 6; look++) {
    await new Promise((resolve) => setTimeout(resolve, 100));
    written = value(await told(), 'zeitbank_answers_total')! - before;
  }
  expect(written).toBe(6);
});

describe('on this machine', () => {
  let server: Server | null = null;
  afterAll(async () => {
    await new Promise((resolve) => (server ? server.close(resolve) : resolve(null)));
  });

  it('is answered at one address only, and by one worker', async () => {
    const port = await freePort();
    server = await serveMetrics(
      port,
      bankMetrics(() => LATER),
    );
    expect((server?.address() as AddressInfo).address).toBe('127.0.0.1');
    const reply = await fetch(`http://127.0.0.1:${port}/metrics`);
    expect(reply.headers.get('content-type')).toContain('text/plain; version=0.0.4');
    expect(value(await reply.text(), 'zeitbank_copy_bytes')).toBe(5000);
    expect((await fetch(`http://127.0.0.1:${port}/`)).status).toBe(404);
    expect((await fetch(`http://127.0.0.1:${port}/metrics`, { method: 'POST' })).status).toBe(404);
    const warned = jest.spyOn(log, 'warn').mockImplementation(() => undefined);
    expect(
      await serveMetrics(
        port,
        bankMetrics(() => LATER),
      ),
    ).toBeNull();
    expect(warned).toHaveBeenCalledTimes(1);
  });
});

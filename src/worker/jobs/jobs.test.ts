import { randomUUID } from 'node:crypto';
import { readdirSync } from 'node:fs';
import { db, transaction } from '@/platform/database';
import { QUEUES } from '@/platform/jobs';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { one } from '@/platform/one';
import { matchOf } from '@/steps/match/service';
import { bankWithTakes, markPassage, orderMatch } from '@/steps/test/bank';
import { JOBS } from '.';
import type { Job } from './job';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithTakes>>;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithTakes(engineer);
});

const WHY = 'This did not work several times; what was there is kept. Start it again.';
const noThread = () => Promise.reject(new Error('there was nothing to do'));

/** The last try of a job failed. */
const givenUp = (job: Job, subjectId: string) =>
  transaction(async (tx) => job.giveUp?.(tx, subjectId, WHY, NOON));

it('are one file each, under the name of their queue', () => {
  const files = readdirSync(__dirname).map((name) => name.replace(/\.ts$/, ''));
  for (const queue of QUEUES) {
    expect(files).toContain(queue);
    expect(JOBS[queue].queue).toBe(queue);
  }
});

// Relating is about a comparison: one without takes is an empty order, which a thread answers at once.
it.each(QUEUES.filter((queue) => queue !== 'relate-takes'))(
  '%s finds nothing to do for what is not there, and touches no thread',
  async (queue) => {
    const job: Job = JOBS[queue];
    await expect(job.run(randomUUID(), noThread, () => undefined)).resolves.toBeUndefined();
    await givenUp(job, randomUUID());
  },
);

it.each(['inspect-take', 'unpack-archive'] as const)(
  '%s leaves a sentence when it is given up, and nothing that was settled is touched',
  async (queue) => {
    const job: Job = JOBS[queue];
    const { comparisonId } = bank;
    const { audio } = await one(
      db().rows<{ audio: number }>(
        'INSERT INTO audio (byte_length, created_at) VALUES (1, $1) RETURNING id AS audio',
        [NOON],
      ),
    );
    const table = queue === 'inspect-take' ? 'take' : 'archive';
    const insert = async (state: string) => {
      const source = `(SELECT id FROM source WHERE comparison_id = $1 LIMIT 1)`;
      const { id } = await one(
        db().rows<{ id: string }>(
          table === 'take'
            ? `INSERT INTO take (comparison_id, audio_id, file_name, state, source_id, created_at)
             VALUES ($1, $2, 'a.wav', $3, ${source}, $4) RETURNING id`
            : `INSERT INTO archive (comparison_id, audio_id, file_name, state, created_at)
             VALUES ($1, $2, 'a.zip', $3, $4) RETURNING id`,
          [comparisonId, audio, state, NOON],
        ),
      );
      return id;
    };
    const stateOf = async (id: string) =>
      one(
        db().rows<{ state: string; remark: string | null }>(
          `SELECT state, remark FROM ${table} WHERE id = $1`,
          [id],
        ),
      );
    const over = table === 'take' ? 'refused' : 'failed';
    const [waiting, settled] = [await insert('waiting'), await insert(over)];
    await givenUp(job, waiting);
    const { state, remark } = await stateOf(waiting);
    expect(state).toBe(over);
    expect(remark).toMatch(/\.$/);
    await givenUp(job, settled);
    expect(await stateOf(settled)).toEqual({ state: over, remark: null });
  },
);

it('render-clips leaves the set with its reason, and the next match may begin', async () => {
  const { comparisonId, chainIds } = bank;
  await markPassage(engineer, comparisonId, { fromS: 1, toS: 3 });
  const setId = await orderMatch(engineer, comparisonId, chainIds[0]!);
  await expect(orderMatch(engineer, comparisonId, chainIds[0]!)).rejects.toMatchObject({
    status: 409,
  });
  await givenUp(JOBS['render-clips'], setId);
  expect((await matchOf(engineer, comparisonId)).clipSet).toMatchObject({
    id: setId,
    state: 'failed',
    remark: WHY,
  });
  await orderMatch(engineer, comparisonId, chainIds[0]!);
});

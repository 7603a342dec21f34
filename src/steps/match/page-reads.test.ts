import type pg from 'pg';
import { setAsideRule } from '@/core/design/set-aside-rule';
import { pool, readingOnce } from '@/platform/database';
import { testEngineer, withTestDatabase } from '@/platform/test/database';
import { overviewOf } from '@/steps/overview/service';
import { resultsOf } from '@/steps/results/service';
import { selfTestsOf } from '@/steps/self-test/service';
import { guardedOf } from '@/steps/sitting/service';
import { takesQuery } from '@/steps/takes/schema';
import { takesViewOf } from '@/steps/takes/takes-view';
import { analysed, answeredSitting } from '@/steps/test/answered';
import { bankWithClips } from '@/steps/test/bank';
import { packsOf } from './pack';
import { matchOf } from './service';

withTestDatabase();

/** Statements that go to the database while something is read for one page, with their values. */
async function asked(read: () => Promise<unknown>): Promise<string[]> {
  const seen: string[] = [];
  const client = pool();
  const real = client.query.bind(client);
  const noting = (query: pg.QueryConfig) => {
    seen.push(JSON.stringify([query.text, query.values]));
    return real(query);
  };
  client.query = noting as typeof client.query;
  try {
    await readingOnce(read);
  } finally {
    client.query = real;
  }
  return seen;
}

it('pages ask for nothing twice, and for a bounded number of things', async () => {
  const engineer = await testEngineer('Mirela Voss');
  const { comparisonId: id, chainIds } = await bankWithClips(engineer);
  await packsOf(engineer, id);
  const match = await asked(async () => {
    await overviewOf(engineer, id);
    await matchOf(engineer, id);
    await packsOf(engineer, id);
    await guardedOf(engineer, id);
    await selfTestsOf(engineer, id);
  });
  const takes = await asked(async () => {
    await overviewOf(engineer, id);
    await takesViewOf(engineer, id, takesQuery.parse({}));
    await guardedOf(engineer, id);
  });
  const measured = await asked(async () => {
    await overviewOf(engineer, id);
    await takesViewOf(engineer, id, takesQuery.parse({ tab: 'measured' }));
    await guardedOf(engineer, id);
  });
  const sittingId = await answeredSitting(engineer, id, {
    aliases: ['Ada', 'Ben'],
    liking: chainIds,
    change: { setAside: setAsideRule.parse({ answeredPct: 99 }) },
  });
  await analysed(sittingId);
  const results = await asked(async () => {
    await overviewOf(engineer, id);
    await resultsOf(engineer, id, null);
  });
  for (const page of [match, takes, measured, results]) {
    expect(page.filter((one, i) => page.indexOf(one) !== i)).toEqual([]);
    // Beside these a page asks who is there, three times at most.
    expect(page.length).toBeGreaterThan(10);
    expect(page.length).toBeLessThanOrEqual(22);
  }
});

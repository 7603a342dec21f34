import { expect, test } from '@playwright/test';
import {
  answerPair,
  childPid,
  demo,
  hearBoth,
  query,
  settleIn,
  signIn,
  startComparison,
  step,
} from './bank';
import { tune, wav24 } from './sound';
import { one } from '../src/platform/one';

const answersOf = async (alias: string) =>
  query<{ position: number; choice: string }>(
    `SELECT position, answer->>'choice' AS choice FROM answer JOIN listener ON listener.id = listener_id
     WHERE alias = $1 ORDER BY position`,
    [alias],
  );

function kill(part: string): void {
  const pid = childPid(part);
  if (pid === null) throw new Error(`${part} does not run`);
  process.kill(pid, 'SIGKILL');
}

test('an answer waits through a lost connection, and arrives once', async ({ page, context }) => {
  await settleIn(page, `/listen/${demo().listenerToken}`, 'Offline Olga');
  await hearBoth(page);
  await page.getByRole('button', { name: 'No preference' }).click();
  await context.setOffline(true);
  await page.getByRole('button', { name: 'Done with this pair' }).click();
  await expect(page.getByText('The connection is away. Your answer is kept')).toBeVisible();
  await context.setOffline(false);
  await expect(page.getByText('Pair 2 of 6')).toBeVisible();
  expect(await answersOf('Offline Olga')).toEqual([{ position: 1, choice: 'tie' }]);
});

test('web, worker and PostgreSQL may be killed; answers stay, once each', async ({ page }) => {
  test.setTimeout(240_000);
  await settleIn(page, `/listen/${demo().listenerToken}`, 'Killed Karl');
  const kills = ['web.mjs', 'postgres', 'worker.mjs'];
  for (const [i, part] of kills.entries()) {
    const position = i + 1;
    await expect(page.getByText(`Pair ${position} of 6`)).toBeVisible({ timeout: 60_000 });
    await hearBoth(page);
    await page
      .getByRole('button', { name: /suits better$/ })
      .first()
      .click();
    kill(part);
    await page.getByRole('button', { name: 'Done with this pair' }).click();
  }
  await expect(page.getByText('Pair 4 of 6')).toBeVisible({ timeout: 60_000 });
  await expect(async () => {
    expect(await answersOf('Killed Karl')).toEqual(
      [1, 2, 3].map((position) => ({ position, choice: 'first' })),
    );
  }).toPass({ timeout: 30_000 });
  await answerPair(page, 4, 'second');
  await expect(page.getByText('Pair 5 of 6')).toBeVisible();
});

test('a page says that the bank is away, and goes on by itself', async ({ page }) => {
  await signIn(page);
  await page.getByRole('link', { name: 'Contralto, which chain?' }).click();
  await step(page, 'Chains').click();
  await expect(page.getByRole('heading', { name: 'Six chains to compare' })).toBeVisible();
  await page.waitForTimeout(500);
  kill('postgres');
  await expect(page.getByText('The bank does not answer just now')).toBeVisible();
  await expect(page.getByText('The bank does not answer just now')).toBeHidden({ timeout: 60_000 });
  await step(page, 'Takes').click();
  await expect(
    page.getByRole('heading', { name: 'Twelve takes, at least one for each chain' }),
  ).toBeVisible();
});

test('a match whose worker is killed midway is made all the same', async ({ page }) => {
  test.setTimeout(180_000);
  await signIn(page);
  await page.getByRole('link', { name: 'Contralto, which chain?' }).click();
  await step(page, 'Match').click();
  await page.getByRole('button', { name: 'Match again' }).click();
  await expect(page.getByRole('heading', { name: 'The clips are being made' })).toBeVisible();
  kill('worker.mjs');
  await expect(page.getByRole('heading', { name: 'Six clips, equally loud' })).toBeVisible({
    timeout: 90_000,
  });
  const [first, second] = await query<{ gains: string }>(
    `SELECT string_agg(gain_db::text, ' ' ORDER BY chain_id) AS gains FROM clip JOIN clip_set
       ON clip_set.id = clip_set_id JOIN passage ON passage.id = passage_id
     WHERE passage.name = 'quiet verse' AND clip_set.context = 'raw'
     GROUP BY clip_set_id, clip_set.created_at ORDER BY clip_set.created_at`,
  );
  const gains = [first, second].map((row) => row!.gains.split(' ').map(Number));
  gains[0]!.forEach((gain, i) => expect(gain).toBeCloseTo(gains[1]![i]!, 2));
});

test('an upload that is cut off goes on where it stopped', async ({ page, context }) => {
  await signIn(page);
  await startComparison(page, 'Long take', 'Lute', 'all');
  await step(page, 'Takes').click();
  const buffer = wav24(tune(120, 0.01, 3), 0.5, 0);
  const long = { name: 'long.wav', mimeType: 'audio/wav', buffer };
  await page.evaluate(() =>
    window.addEventListener('beforeunload', (e) => e.stopImmediatePropagation(), true),
  );
  let pieces = 0;
  let cut = true;
  await page.route('**/api/uploads/*', async (route) => {
    if (route.request().method() === 'PATCH' && ++pieces > 1 && cut) await route.abort();
    else await route.continue();
  });
  await page.locator('input[type=file]').setInputFiles(long);
  await expect.poll(() => pieces, { timeout: 30_000 }).toBeGreaterThan(1);
  const { received } = await one(
    query<{ received: string }>(`SELECT received FROM upload WHERE file_name = 'long.wav'`),
  );
  expect(Number(received)).toBe(8 * 1024 * 1024);
  // The way stays the same: what is under way just now is not lost with it.
  cut = false;
  const take = page.getByRole('row').filter({ hasText: 'long.wav' });
  await expect(take.getByRole('cell', { name: '2:00' })).toBeVisible({ timeout: 60_000 });
  const { count } = await one(
    query<{ count: number }>(
      `SELECT count(*)::int AS count FROM upload WHERE file_name = 'long.wav'`,
    ),
  );
  expect(count).toBe(1);
  await context.close();
});

test('a copy of the bank that is cut off says so; the next is made and comes back whole', async ({
  page,
}) => {
  test.setTimeout(240_000);
  await signIn(page);
  await page.getByRole('link', { name: 'Copies' }).click();
  await expect(page.getByRole('heading', { name: 'No copy of this bank yet' })).toBeVisible();
  await page.getByRole('button', { name: 'Back up now' }).click();
  await expect
    .poll(
      async () =>
        (
          await query(
            'SELECT id FROM bank_copy WHERE begun_at IS NOT NULL AND made_at IS NULL AND failed IS NULL',
          )
        ).length,
      { timeout: 60_000, intervals: [50] },
    )
    .toBe(1);
  kill('worker.mjs');
  await expect(page.getByRole('rowheader', { name: /^not possible: its program/ })).toBeVisible({
    timeout: 60_000,
  });
  const again = page.getByRole('button', { name: 'Back up now' });
  await expect(again).toBeEnabled();
  await again.click();
  await expect(page.getByText(/^came back whole/)).toBeVisible({ timeout: 150_000 });
  const file = page.getByRole('link', { name: /^zeitbank-.*\.zip$/ });
  const address = (await file.getAttribute('href')) ?? '';
  const whole = await page.request.get(address);
  const rest = await page.request.get(address, { headers: { range: 'bytes=1000-' } });
  expect([whole.status(), rest.status()]).toEqual([200, 206]);
  expect((await rest.body()).equals((await whole.body()).subarray(1000))).toBe(true);
});

import { expect, type Page, test } from '@playwright/test';
import {
  answerPair,
  EVERY_TASK,
  openSitting,
  query,
  settleIn,
  signIn,
  startWithChains,
  step,
} from './bank';

/** What the browser keeps under a name, as far as addresses go. */
async function keptIn(page: Page, cache: string): Promise<string[]> {
  return page.evaluate(async (name) => {
    const requests = await (await caches.open(name)).keys();
    return requests.map(({ url }) => new URL(url).pathname);
  }, cache);
}

/** Waits until this page opens without a connection. */
async function kept(page: Page): Promise<void> {
  const here = new URL(page.url()).pathname;
  await expect.poll(() => keptIn(page, 'zeitbank pages')).toContain(here);
}

test('a run sheet opens anew without a connection, and goes on where it was', async ({
  page,
  context,
}) => {
  await signIn(page);
  const id = await startWithChains(page, 'Far from any network', ['Rot 1', 'Gelb 2']);
  await step(page, 'Takes').click();
  await page.getByRole('link', { name: 'Plan the recording' }).click();
  await page.getByLabel('Order of the chains').click();
  await page.getByRole('option', { name: /^rotated/ }).click();
  await page.getByRole('button', { name: 'Write the sheet' }).click();
  const heading = page.getByRole('heading', { level: 1 });
  await expect(heading).toContainText('0 of 8 lines done');
  await expect(page.getByText(/opens anew on this device/)).toBeVisible();
  await kept(page);
  await page.getByLabel('Done: Rot 1, take 1').check();
  await expect(heading).toContainText('1 of 8 lines done');
  await expect
    .poll(() => query('SELECT 1 FROM run_line WHERE comparison_id = $1 AND done', [id]))
    .toHaveLength(1);

  await context.setOffline(true);
  // Something that the page was just asking for may get in the way of the first try.
  await expect(() => page.reload()).toPass();
  // What the bank had taken after the page was kept is there too.
  await expect(heading).toContainText('1 of 8 lines done');
  await page.getByLabel('Done: Gelb 2, take 1').check();
  await expect(page.getByText('One entry waits on this device.')).toBeVisible();
  await expect(page.getByText('The bank does not answer just now')).toBeVisible();
  await expect(() => page.reload()).toPass();
  await expect(heading).toContainText('2 of 8 lines done');
  await expect(page.getByText('One entry waits on this device.')).toBeVisible();
  await page.goto(`/comparisons/${id}/chains`).catch(() => undefined);
  await expect(page.getByRole('heading', { name: 'No connection' })).toBeVisible();

  await context.setOffline(false);
  await page.goto(`/comparisons/${id}/run-sheet`);
  await expect(page.getByText('waits on this device')).toHaveCount(0);
  await expect(heading).toContainText('2 of 8 lines done');
  await expect
    .poll(() => query('SELECT 1 FROM run_line WHERE comparison_id = $1 AND done', [id]))
    .toHaveLength(2);

  // Of the whole bank one page is kept here, and nothing that a route answered.
  expect(await keptIn(page, 'zeitbank pages')).toEqual([`/comparisons/${id}/run-sheet`]);
  const files = await keptIn(page, 'zeitbank files');
  expect(files.length).toBeGreaterThan(5);
  expect(files.filter((file) => !file.startsWith('/_next/static/'))).toEqual([]);

  // What was asked for before somebody signed out is not kept when it comes after.
  const signOut = await page.getByRole('button', { name: 'Sign out' }).elementHandle();
  await page.evaluate(async (button) => {
    const { active } = await navigator.serviceWorker.ready;
    const { port1, port2 } = new MessageChannel();
    const answered = new Promise((resolve) => {
      port1.onmessage = resolve;
    });
    active!.postMessage({ keep: [location.href] }, [port2]);
    (button as HTMLElement).click();
    await answered;
  }, signOut);
  await expect(page.getByRole('heading', { name: 'Sign in to Zeitbank' })).toBeVisible();
  await expect.poll(() => keptIn(page, 'zeitbank pages')).toEqual([]);
});

test('a listener’s page opens without a connection, says so, and goes on by itself', async ({
  page,
  browser,
}) => {
  await signIn(page);
  const { id, token } = await openSitting(page, [{ ...EVERY_TASK[0]!, trials: 2 }], {});
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const phone = await context.newPage();
  await settleIn(phone, `/listen/${token}`, 'Far away');
  await answerPair(phone, 1, 'first');
  await expect(phone.getByText('Pair 2 of')).toBeVisible();
  await kept(phone);
  await context.setOffline(true);
  await phone.reload();
  await expect(phone.getByRole('heading', { name: 'No connection' })).toBeVisible();
  await context.setOffline(false);
  // Not the page as it was kept, but where this listener stands.
  await answerPair(phone, 2, 'second');
  await expect(phone.getByRole('heading', { name: 'Thank you, Far away' })).toBeVisible();
  await expect
    .poll(() => query('SELECT 1 FROM answer WHERE sitting_id = $1', [id]))
    .toHaveLength(2);
  // No sound is kept, nor anything that the bank told beside the page itself.
  expect(await keptIn(phone, 'zeitbank pages')).toEqual([`/listen/${token}`]);
  expect(await phone.evaluate(() => caches.keys())).toHaveLength(2);

  // A link that leads nowhere any more is not kept either.
  await query(`UPDATE sitting SET token = 'moved-' || substr(md5(id::text), 1, 20) WHERE id = $1`, [
    id,
  ]);
  await phone.reload();
  await expect(phone.getByRole('heading', { name: 'This link leads to no sitting' })).toBeVisible();
  await context.close();
});

test('what is installed opens where it was installed', async ({ page, request }) => {
  await page.goto('/sign-in');
  const link = await page.locator('link[rel=manifest]').getAttribute('href');
  const manifest = (await (await request.get(link!)).json()) as Record<string, unknown>;
  expect(manifest).toMatchObject({ name: 'Zeitbank', display: 'standalone' });
  expect(manifest).not.toHaveProperty('start_url');
  for (const { src } of manifest.icons as { src: string }[]) {
    expect((await request.get(src)).status()).toBe(200);
  }
  const worker = await request.get('/service-worker.js');
  expect(worker.headers()['content-type']).toContain('javascript');
  // A new version is seen at the next visit.
  expect(worker.headers()['cache-control']).toMatch(/max-age=0|no-cache/);
});

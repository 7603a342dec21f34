import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { expect, type Page, test } from '@playwright/test';
import pg from 'pg';
import { faults, startComparison } from './bank';
import { OwnBank } from './own-bank';

// What guards blindness, doors and data has one try: once is a fault.
test.describe.configure({ retries: 0 });

const PASSWORD = 'lantern under snow';

/** Comparisons that a schema of the bank holds. */
async function titlesIn(bank: OwnBank, schema: string): Promise<string[]> {
  const environment = readFileSync(`/proc/${bank.pidOf('worker.mjs')}/environ`, 'utf8');
  const url = /DATABASE_URL=([^\0]+)/.exec(environment)?.[1];
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const { rows } = await client.query<{ nspname: string }>(
      'SELECT nspname FROM pg_namespace WHERE nspname LIKE $1 ORDER BY nspname DESC LIMIT 1',
      [schema],
    );
    const found = await client.query<{ title: string }>(
      `SELECT title FROM "${rows[0]!.nspname}".comparison ORDER BY title`,
    );
    return found.rows.map(({ title }) => title);
  } finally {
    await client.end();
  }
}

async function signInAs(page: Page, bank: OwnBank): Promise<void> {
  await page.goto(`${bank.base}/sign-in`);
  await page.getByLabel('Name').fill('Ilse Brandt');
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('link', { name: 'Ilse Brandt' })).toBeVisible();
}

async function restore(page: Page, file: string): Promise<void> {
  await page.getByRole('button', { name: `Restore ${file}` }).click();
  await page.getByLabel('Your password').fill(PASSWORD);
  await page.getByRole('dialog').getByRole('button', { name: 'Restore' }).click();
}

test('the owner brings a copy back by a screen; what was there is kept aside', async ({
  browser,
}) => {
  test.setTimeout(540_000);
  const bank = new OwnBank();
  // Addresses of helpers are those of this bank.
  const context = await browser.newContext({ baseURL: bank.base });
  const page = await context.newPage();
  try {
    await bank.start();
    await bank.claim(page, 'Ilse Brandt', PASSWORD);
    await startComparison(page, 'Before the copy', 'Lute', 'opening');
    await page.goto('/copies');
    await page.getByRole('button', { name: 'Back up now' }).click();
    const copies = page.getByRole('table', { name: 'Copies' });
    // Made, and tried out for the first time.
    await expect(copies.getByText(/^came back whole/)).toHaveCount(1, { timeout: 120_000 });
    const folder = path.join(bank.folder, 'copies');
    const [file] = readdirSync(folder);
    await startComparison(page, 'After the copy', 'Lute', 'opening');

    // A copy of it that was damaged on its way is found in the folder, and refused before anything changes.
    const bytes = readFileSync(path.join(folder, file!));
    bytes[Math.floor(bytes.length / 2)]! ^= 0xff;
    writeFileSync(path.join(folder, 'carried-by-hand.zip'), bytes);
    await page.goto('/copies');
    await expect(async () => {
      await page.reload();
      await expect(page.getByRole('link', { name: 'carried-by-hand.zip' })).toBeVisible({
        timeout: 1000,
      });
    }).toPass({ timeout: 60_000 });
    expect(await faults(page)).toEqual([]);
    await restore(page, 'carried-by-hand.zip');
    await expect(page.getByRole('heading', { name: 'A copy is being brought back' })).toBeVisible();
    await expect(
      page.getByText(/^wanted back, and not restored: .*carried-by-hand\.zip is damaged/),
    ).toBeVisible({ timeout: 90_000 });
    expect(await titlesIn(bank, 'public')).toEqual(['After the copy', 'Before the copy']);

    // Nobody brings it back without the password.
    await page.getByRole('button', { name: `Restore ${file}` }).click();
    await page.getByLabel('Your password').fill('not this one');
    await page.getByRole('dialog').getByRole('button', { name: 'Restore' }).click();
    await expect(page.getByText('This is not your password.')).toBeVisible();
    await page.getByRole('button', { name: 'Cancel' }).click();

    const bystander = await context.newPage();
    await restore(page, file!);
    await expect(page.getByRole('heading', { name: 'A copy is being brought back' })).toBeVisible();
    // Whoever comes meanwhile is told so, and goes on by themselves.
    await expect(async () => {
      await bystander.goto(bank.base);
      await expect(bystander.getByRole('heading', { name: 'A copy is being' })).toBeVisible({
        timeout: 500,
      });
    }).toPass({ timeout: 30_000, intervals: [200] });
    await expect(bystander.getByRole('heading', { name: 'Sign in to Zeitbank' })).toBeVisible({
      timeout: 120_000,
    });
    await bystander.close();
    await expect(page.getByRole('heading', { name: 'Sign in to Zeitbank' })).toBeVisible({
      timeout: 120_000,
    });
    await signInAs(page, bank);
    await expect(page.getByRole('link', { name: 'Before the copy', exact: true })).toBeVisible();
    await expect(page.getByRole('link', { name: 'After the copy' })).toHaveCount(0);
    expect(await titlesIn(bank, 'aside\\_%\\_public')).toEqual([
      'After the copy',
      'Before the copy',
    ]);
    await page.goto('/log');
    await expect(page.getByText(/brought back a backup/).first()).toBeVisible();
    // Both files are listed, also the one that the bank of then did not know.
    await page.goto('/copies');
    await expect(async () => {
      await page.reload();
      await expect(copies.getByRole('button', { name: /^Restore / })).toHaveCount(2, {
        timeout: 1000,
      });
    }).toPass({ timeout: 60_000 });

    // A power cut in the middle: the bank is there again, as it was or as it was wanted, and whole.
    await startComparison(page, 'Before the power cut', 'Lute', 'opening');
    await page.goto('/copies');
    await restore(page, file!);
    await expect
      .poll(() => bank.said, { timeout: 60_000, intervals: [50] })
      .toMatch(/Bringing it back\.\s*$/);
    await bank.kill();
    await bank.start();
    // As it was, it would still know who this is.
    await context.clearCookies();
    await signInAs(page, bank);
    const titles = await titlesIn(bank, 'public');
    expect([['Before the copy'], ['Before the copy', 'Before the power cut']]).toContainEqual(
      titles,
    );
  } finally {
    await context.close();
    await bank.remove();
  }
});

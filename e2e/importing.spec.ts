import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { query, signIn, step } from './bank';
import { OwnBank } from './own-bank';

// What guards data has one try: once is a fault.
test.describe.configure({ retries: 0 });

test('a comparison moves to another bank as a whole', async ({ page, browser }, info) => {
  test.setTimeout(300_000);
  await signIn(page);
  const [cello] = await query<{ id: string }>(
    `SELECT id FROM comparison WHERE simulated AND title = 'Cello, is the valve only EQ?'`,
  );
  const exported = await page.request.get(`/api/comparisons/${cello!.id}/archive`);
  expect(exported.ok()).toBe(true);
  const zip = info.outputPath('cello.zip');
  writeFileSync(zip, await exported.body());

  const bank = new OwnBank();
  const context = await browser.newContext({ baseURL: bank.base });
  const elsewhere = await context.newPage();
  try {
    await bank.start();
    await bank.claim(elsewhere, 'Ilse Brandt', 'lantern under snow');
    const send = async (file: string) => {
      await elsewhere.goto('/');
      await elsewhere.getByRole('button', { name: 'Import' }).click();
      await elsewhere.getByLabel('Archive of a comparison').setInputFiles(file);
      await elsewhere.waitForURL(/\/takes$/);
    };
    await send(zip);
    const margin = elsewhere.getByRole('complementary', { name: 'Margin' });
    await expect(
      margin.getByRole('heading', { name: 'Cello, is the valve only EQ?' }),
    ).toBeVisible();
    await step(elsewhere, 'Match').click();
    // The clips are there, verified as they were, and can be heard.
    await expect(elsewhere.getByRole('link', { name: /Match.*LU/ })).toBeVisible();
    const sound = elsewhere.waitForResponse((one) => /\/clips\//.test(one.url()) && one.ok());
    await elsewhere
      .getByRole('button', { name: /^(Play|Hear)/ })
      .first()
      .click();
    await sound;
    await elsewhere.goto('/log');
    await expect(elsewhere.getByText(/began to bring in a comparison/)).toBeVisible();

    await send(zip);
    await expect(
      elsewhere.getByText(/it is in this bank already, as “Cello, is the valve only EQ\?”/),
    ).toBeVisible();
    const torn = path.join(path.dirname(zip), 'torn.zip');
    writeFileSync(torn, (await exported.body()).subarray(0, 100_000));
    await send(torn);
    await expect(
      elsewhere.getByText(/damaged or cut short\. Nothing of it was kept\./),
    ).toBeVisible();
  } finally {
    await context.close();
    await bank.remove();
  }
});

import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { faults, signIn } from './bank';

test('the owner reads what mattered, filters it, and takes it out to check it elsewhere', async ({
  page,
  request,
}) => {
  await signIn(page);
  await page.getByRole('link', { name: 'Log', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/, and none was changed$/);
  const table = page.getByRole('table', { name: 'Log' });
  await expect(table.getByRole('row').nth(1)).toContainText('signed in');
  expect(await faults(page)).toEqual([]);
  await page.getByRole('combobox', { name: 'What' }).click();
  await page.getByRole('option', { name: 'sealed and opened a sitting' }).click();
  await expect(page).toHaveURL(/action=sealed/);
  await expect(table.getByRole('row').nth(1)).toContainText('seal ');
  await expect(table.getByText('signed in')).toHaveCount(0);

  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export' }).click();
  const lines = readFileSync(await (await download).path(), 'utf8')
    .trimEnd()
    .split('\n')
    .map((line) => JSON.parse(line) as { record: string; sha256: string });
  let before: string | null = null;
  for (const [i, { record, sha256 }] of lines.entries()) {
    expect(createHash('sha256').update(record).digest('hex')).toBe(sha256);
    expect(JSON.parse(record)).toMatchObject({ n: i + 1, before });
    before = sha256;
  }
  expect(lines.some(({ record }) => record.includes('"action":"closed"'))).toBe(true);
  // Nobody else gets it.
  expect((await request.get('/api/log')).status()).toBe(401);
});

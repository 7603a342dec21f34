import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { unzipSync } from 'fflate';
import { signIn, step } from './bank';

test('a comparison is taken out whole, and not while a sitting is open', async ({ page }) => {
  await signIn(page);
  await page.getByRole('link', { name: 'Cello, is the valve only EQ?' }).click();
  await step(page, 'Question').click();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe('Cello, is the valve only EQ.zip');
  const files = unzipSync(readFileSync(await file.path()));
  const clips = Object.keys(files).filter((name) => name.startsWith('clips/'));
  expect(clips).toHaveLength(6);
  const listed = Buffer.from(files['clips.csv'] ?? []).toString();
  for (const name of clips) {
    expect(listed).toContain(createHash('sha256').update(files[name]!).digest('hex'));
  }

  // Where a panel listens just now, nothing tells its clips from each other.
  await page.goto('/');
  await page.getByRole('link', { name: 'Contralto, which chain?' }).click();
  await step(page, 'Question').click();
  const shut = page.getByRole('link', { name: 'Export' });
  await expect(shut).toHaveAttribute('aria-disabled', 'true');
  const [, comparison] = /comparisons\/([^/]+)/.exec(page.url()) ?? [];
  const refused = await page.request.get(`/api/comparisons/${comparison}/archive`);
  expect(refused.status()).toBe(409);
  expect(await refused.text()).toContain('Close it, then export');
});

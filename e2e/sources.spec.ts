import { expect, test } from '@playwright/test';
import { signIn, startComparison } from './bank';

test('sources are added, named anew and kept while something belongs to them', async ({ page }) => {
  await signIn(page);
  const comparison = `comparisons/${await startComparison(page, 'Two at one stand', 'Contralto', 'verse')}`;

  const button = page.getByRole('button', { name: 'Save', exact: true });
  const save = () => button.click();
  const source = page.getByRole('textbox', { name: 'Source 2' });
  // A click before the page has woken up does nothing.
  const unfold = () =>
    expect(async () => {
      await page.getByText('Further sources and passages').click();
      await expect(page.getByRole('button', { name: 'Add a source' })).toBeVisible({
        timeout: 1000,
      });
    }).toPass();
  const rename = (name: string) =>
    expect(async () => {
      await source.fill('');
      await source.fill(name);
      await expect(button).toBeEnabled({ timeout: 1000 });
    }).toPass();
  await page.goto(`/${comparison}/question`);
  await unfold();
  await expect(async () => {
    await page.getByRole('button', { name: 'Add a source' }).click();
    await expect(source).toBeVisible({ timeout: 1000 });
  }).toPass();
  await rename('contralto');
  await save();
  await expect(page.getByText('Two sources are called “contralto”')).toBeVisible();
  await rename('Cello');
  await save();
  await expect(page.getByText('Saved.')).toBeVisible();

  // A passage of the cello keeps its source whatever it is called.
  await page.goto(`/${comparison}/match`);
  await page.getByRole('button', { name: 'Another passage' }).click();
  await page.getByLabel('Name of the passage').fill('low pedal');
  await page.getByLabel('Of the source').click();
  await page.getByRole('option', { name: 'Cello' }).click();
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByLabel('Passage', { exact: true })).toContainText('Cello: low pedal');
  await page.goto(`/${comparison}/question`);
  await unfold();
  await rename('Violoncello');
  await save();
  await expect(page.getByText('Saved.')).toBeVisible();
  await page.goto(`/${comparison}/match`);
  await page.getByLabel('Passage', { exact: true }).click();
  await expect(page.getByRole('option', { name: 'Violoncello: low pedal' })).toBeVisible();
  await page.keyboard.press('Escape');

  await page.goto(`/${comparison}/question`);
  await unfold();
  await expect(source).toHaveValue('Violoncello');
  await expect(async () => {
    await page.getByRole('button', { name: 'Remove source 2' }).click();
    await expect(source).toHaveCount(0, { timeout: 1000 });
  }).toPass();
  await save();
  await expect(page.getByText('belong to “Violoncello”, so it stays')).toBeVisible();
  await page.reload();
  await unfold();
  await expect(source).toHaveValue('Violoncello');
});

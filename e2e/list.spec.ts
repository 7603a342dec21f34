import { expect, test } from '@playwright/test';
import { faults, query, signIn } from './bank';
import { one } from '../src/platform/one';

test('the list of a large bank is searched, sorted and paged on the server', async ({ page }) => {
  const { owner } = await one(query<{ owner: string }>('SELECT owner_id AS owner FROM comparison'));
  await query(
    `WITH made AS (
       INSERT INTO comparison (owner_id, title, question, simulated, created_at)
       SELECT $1, 'Harbour ' || lpad(i::text, 2, '0'), '', true,
         '2020-01-01'::timestamptz + i * interval '1 day'
       FROM generate_series(1, 60) i RETURNING id),
     heard AS (
       INSERT INTO source (comparison_id, position, name) SELECT id, 0, 'Cello' FROM made
       RETURNING id, comparison_id)
     INSERT INTO passage (comparison_id, source_id, position, name)
     SELECT comparison_id, id, 1, 'end' FROM heard`,
    [owner],
  );
  try {
    await signIn(page);
    const rows = page.getByRole('table', { name: 'Comparisons' }).getByRole('row');
    await expect(rows).toHaveCount(26);
    // Of all its links it asks for none before it is followed.
    const asked: string[] = [];
    page.on('request', (request) => {
      if (new URL(request.url()).searchParams.has('_rsc')) asked.push(request.url());
    });
    await page.goto('/', { waitUntil: 'networkidle' });
    expect(asked).toEqual([]);
    await page.getByRole('button', { name: 'Go to next page' }).click();
    await expect(page.getByText('26–50 of')).toBeVisible();
    await page.getByRole('button', { name: 'Started' }).click();
    await expect(rows.nth(1)).toContainText('Harbour 01');
    await page.getByLabel('Search').fill('harbour 4');
    await page.getByRole('button', { name: 'Search', exact: true }).click();
    await expect(rows).toHaveCount(11);
    await expect(page.getByRole('heading', { level: 1 })).toContainText('10 of');
    // The address keeps what is looked at; the browser's way back leads out of the search.
    await page.reload();
    await expect(page.getByLabel('Search')).toHaveValue('harbour 4');
    await expect(rows.nth(1)).toContainText('Harbour 40');
    await page.goBack();
    await expect(page.getByLabel('Search')).toHaveValue('');
    await page.goto('/?q=%25&page=0&sort=nothing');
    await expect(page.getByText('No comparison holds “%”')).toBeVisible();
    await page.getByRole('link', { name: 'Show all' }).click();
    await expect(page.getByRole('link', { name: 'Contralto, which chain?' })).toBeVisible();
  } finally {
    const made = `SELECT id FROM comparison WHERE title LIKE 'Harbour %'`;
    await query(`DELETE FROM passage WHERE comparison_id IN (${made})`);
    await query(`DELETE FROM comparison WHERE id IN (${made})`);
  }
});

test('one key looks through the whole bank, and goes to what is chosen', async ({ page }) => {
  await signIn(page);
  const dialog = page.getByRole('dialog', { name: 'Search the whole bank' });
  // The page may be read before it listens to keys.
  await expect(async () => {
    if (!(await dialog.isVisible())) await page.keyboard.press('/');
    await expect(dialog).toBeVisible({ timeout: 2000 });
  }).toPass();
  await page.keyboard.type('halde tarn');
  await expect(dialog.getByRole('group', { name: 'Chains' })).toBeVisible();
  await expect(dialog.getByRole('option', { name: /^HaldeT2_Tarn1_take1\.wav/ })).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.getByRole('option', { name: /^HaldeT2_Tarn1_take2\.wav/ }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByLabel('Search')).toHaveValue('HaldeT2_Tarn1_take2.wav');
  await page.getByRole('button', { name: 'Search (/)' }).click();
  await page.keyboard.type('nobody said this');
  await expect(dialog.getByText('Nothing holds all of these words.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();

  // Places are found by what is done there; those of the open comparison come first.
  await page.keyboard.press('/');
  await page.keyboard.type('report');
  const places = dialog.getByRole('group', { name: 'Go to' });
  await expect(places.getByRole('option').first()).toHaveText(/^Report\s*of this comparison$/);
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/report$/);
  await page.goto('/');
  await page.keyboard.press('/');
  await expect(places.getByRole('option')).toHaveCount(16);
  expect(await faults(page)).toEqual([]);
  await page.keyboard.type('backup');
  await expect(places.getByRole('option')).toHaveCount(1);
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/copies$/);
});

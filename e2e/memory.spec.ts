import { expect, type Page, test } from '@playwright/test';
import { faults, importPairs, query, signIn, startWithChains, step } from './bank';
import { tune, wav24 } from './sound';

const table = (page: Page, name: string) => page.getByRole('table', { name });

test('what was heard is found by voice and by item, with what the results say', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/decisions');
  await page.getByRole('link', { name: 'What panels heard' }).click();
  await expect(page).toHaveURL(/\/decisions\/heard$/);
  const mix = table(page, 'What was heard')
    .getByRole('row')
    .filter({ has: page.getByRole('link', { name: /; in the mix$/ }) })
    .first();
  await expect(mix).toContainText('Kern 40 › Linie 2');
  await expect(mix).toContainText('simulated listeners');
  expect(await faults(page)).toEqual([]);
  // It leads to the sitting in which it was heard, which says the same.
  const said = /Kern 40 › Linie 2\s*(\d+) \(\d+ to \d+\) %/.exec(await mix.innerText());
  await mix.getByRole('link').click();
  await expect(page.getByText(/In the mix: the best is Kern 40 › Linie 2 or/)).toBeVisible();
  await page.getByRole('button', { name: 'The figures' }).click();
  await expect(page.getByText(new RegExp(`\\b${said?.[1]}\\b`)).first()).toBeVisible();

  await page.goto('/decisions/heard?q=no such voice');
  await expect(page.getByText('Nothing that was heard holds “no such voice”.')).toBeVisible();
});

test('an item’s page tells what its chains won and lost, and what was decided', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/gear?q=Kern 40');
  await page.getByRole('link', { name: 'What was heard of Kern 40', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    /^Kern 40, heard \d+ times: .*may be the best in \d+/,
  );
  const rows = table(page, 'Where its chains were heard').getByRole('row');
  await expect(rows.filter({ hasText: 'that may be the best' }).first()).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Words that were ticked' })).toBeVisible();
  await expect(
    page.getByText(/^contralto, (in the mix|on the road): Kern 40 › Linie 2, chosen/),
  ).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.setViewportSize({ width: 390, height: 844 });
  const wider = await page.evaluate(
    () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
  );
  expect(wider).toBe(0);

  // An item that no panel heard says so; an address that names none is not found.
  await page.goto('/gear/3f0a1d0e-0000-4000-8000-000000000000');
  await expect(
    page.getByRole('heading', { name: 'There is nothing at this address' }),
  ).toBeVisible();
});

test('the shortest bench for a voice is proposed from what panels heard, with reasons', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/decisions/heard?q=contralto');
  await page.getByRole('link', { name: 'Shortest bench for a voice' }).click();
  await expect(page).toHaveURL(/shortest\?q=contralto$/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/to record for “contralto”/);
  const first = table(page, 'Chains to record').getByRole('row').nth(1);
  await expect(first).toContainText(/(won|may be the best) \d+.*, of \w+ places?/);
  await expect(first).toContainText('€');
  expect(await faults(page)).toEqual([]);

  await page.getByRole('searchbox').fill('nose flute');
  await page.getByRole('button', { name: 'Search', exact: true }).click();
  await expect(page.getByText(/No panel heard a place with all these words/)).toBeVisible();
});

test('comparisons that nothing links are told so, with what to do', async ({ page }) => {
  await signIn(page);
  await page.goto('/decisions/heard');
  await page.getByRole('link', { name: 'Comparisons set against each other' }).click();
  await expect(page.getByText(/No chain was heard blind in two comparisons/)).toBeVisible();
  expect(await faults(page)).toEqual([]);
  // An address that names no chain is as if it named none.
  await page.goto('/decisions/bridge?through=nobody');
  await expect(page.getByText(/Set up the same gear in each/)).toBeVisible();
});

test('what was removed is found in the bin, and comes back', async ({ page }) => {
  await signIn(page);
  await page.goto('/gear?q=Pad 20');
  await page.getByRole('button', { name: 'Remove Pad 20' }).click();
  await expect(page.getByRole('button', { name: 'Remove Pad 20' })).toHaveCount(0);
  await page.goto('/');
  await page.getByRole('link', { name: 'See what can be restored' }).click();
  const row = table(page, 'What was removed').getByRole('row').filter({ hasText: 'Pad 20' });
  await expect(row).toContainText('item of gear');
  expect(await faults(page)).toEqual([]);
  await row.getByRole('button', { name: 'Restore Pad 20' }).click();
  await expect(page.getByText('Pad 20 is back where it was.')).toBeVisible();
  await expect(row).toHaveCount(0);
  await page.goto('/gear?q=Pad 20');
  await expect(page.getByRole('button', { name: 'Remove Pad 20' })).toBeVisible();
});

test('a take that was removed comes back by Undo, and later from the bin', async ({ page }) => {
  await signIn(page);
  const id = await startWithChains(page, 'Removed by mistake', ['Rot 1']);
  await step(page, 'Takes').click();
  await page.locator('input[type=file]').setInputFiles({
    name: 'Rot 1.wav',
    mimeType: 'audio/wav',
    buffer: wav24(tune(3, 0.05, 11), 0.5, 0),
  });
  const chain = page.getByRole('combobox', { name: 'Chain of Rot 1.wav' });
  await expect(chain).toHaveText('Rot 1');
  await expect(page.getByText('being checked')).toHaveCount(0, { timeout: 60_000 });
  const remove = async () => {
    // The page is read anew while the take is checked, and takes an open menu along.
    await expect(async () => {
      await page.getByRole('button', { name: 'More about Rot 1.wav' }).click({ timeout: 2000 });
      await page.getByRole('menuitem', { name: 'Remove' }).click({ timeout: 2000 });
    }).toPass();
    await page.getByRole('dialog').getByRole('button', { name: 'Remove' }).click();
    await expect(chain).toHaveCount(0);
    await expect
      .poll(() => query('SELECT 1 FROM removed_take WHERE comparison_id = $1', [id]))
      .toHaveLength(1);
  };
  await remove();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(chain).toHaveText('Rot 1');
  await remove();
  await page.goto('/bin');
  await page.getByRole('button', { name: 'Restore Rot 1.wav' }).click();
  await expect(page.getByText('Rot 1.wav is back where it was.')).toBeVisible();
  await page.goto(`/comparisons/${id}/takes`);
  await expect(chain).toHaveText('Rot 1');
});

test('chains that never met are read through one that two comparisons heard', async ({ page }) => {
  test.setTimeout(240_000);
  await signIn(page);
  const chains = ['Link', 'Stranger', 'Guest'];
  const id = await startWithChains(page, 'Another evening', chains);
  // One chain of the gear that the demo's panel heard; the two others of gear that no chain there has.
  await query(
    `INSERT INTO chain_item (chain_id, position, gear_id, settings)
     SELECT (SELECT id FROM chain WHERE comparison_id = $1 AND name = 'Link'), item.position, item.gear_id, item.settings
     FROM chain_item AS item
     WHERE item.chain_id = (SELECT chain_id FROM chain_standing JOIN sitting ON sitting.id = sitting_id
       WHERE sitting.title = 'Contralto, quiet verse' ORDER BY chain_id LIMIT 1)`,
    [id],
  );
  await step(page, 'Takes').click();
  const music = tune(6, 0.05, 9);
  await page.locator('input[type=file]').setInputFiles(
    chains.map((chain, i) => ({
      name: `${chain}.wav`,
      mimeType: 'audio/wav',
      buffer: wav24(music, 0.5 - 0.1 * i, 0),
    })),
  );
  for (const chain of chains) {
    await expect(page.getByRole('combobox', { name: `Chain of ${chain}.wav` })).toHaveText(chain);
  }
  await expect(page.getByText('being checked')).toHaveCount(0, { timeout: 60_000 });
  await step(page, 'Match').click();
  await page.getByRole('button', { name: 'Match the clips' }).click();
  await expect(page.getByRole('heading', { name: 'Three clips, equally loud' })).toBeVisible({
    timeout: 60_000,
  });
  await importPairs(page, id, { source: 'Lute', context: 'raw' }, 10, [
    ['Stranger', 'Link', 7],
    ['Stranger', 'Guest', 6],
    ['Link', 'Guest', 5],
  ]);

  // What was brought in is read by the worker first.
  await expect(async () => {
    await page.goto('/decisions/bridge');
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(
      / sittings, set against Link$/,
      { timeout: 3000 },
    );
  }).toPass({ timeout: 90_000 });
  await expect(page.getByRole('link', { name: /^Another evening/ }).first()).toBeVisible();
  await expect(page.getByText(/Not one voice was heard/)).toBeVisible();
  expect(await faults(page)).toEqual([]);
});

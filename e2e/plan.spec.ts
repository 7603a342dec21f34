import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { faults as axeFaults, signIn, step } from './bank';

async function openGear(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'Gear', exact: true }).click();
  await expect(page.getByRole('grid', { name: 'Gear' })).toBeVisible();
}

test('gear comes in from a spreadsheet, is edited in place, and goes out again', async ({
  page,
}) => {
  await signIn(page);
  await openGear(page);
  await page.getByRole('button', { name: 'Import' }).click();
  await page
    .getByLabel('Or paste from a spreadsheet')
    .fill(
      'name\tkind\tprice\tself-noise (dBA)\nLehm 3\tmicrophone\t312,50\t12,5\nLehm 4\tmicrophone\tten\t-400\n',
    );
  await page.getByRole('button', { name: 'Look at what is pasted' }).click();
  const faults = page.getByRole('table', { name: 'Faults' });
  await expect(faults.getByRole('row')).toHaveCount(3);
  await expect(faults).toContainText('“ten” is not a number.');
  await expect(faults).toContainText('Self-noise lies between -10 and 60 dBA.');
  await page.getByRole('button', { name: 'Import 1, leave 1 out' }).click();
  await expect(page.getByText('One item brought in.')).toBeVisible();

  // In place: what cannot be true goes back with a reason, what can is kept.
  const grid = page.getByRole('grid', { name: 'Gear' });
  const row = grid.getByRole('row').filter({ hasText: 'Lehm 3' });
  const price = row.locator('[data-field="price (€)"]');
  const write = async (text: string) => {
    await price.dblclick();
    await price.getByRole('textbox').fill(text);
    await page.keyboard.press('Enter');
  };
  await write('-5');
  await expect(page.getByText('A price cannot be negative. Lehm 3 stays as it was.')).toBeVisible();
  await expect(price).toHaveText('312.50');
  await write('299,9');
  await expect(price).toHaveText('299.90');
  await page.reload();
  await expect(price).toHaveText('299.90');

  // The whole list is sorted and searched where it lies.
  await grid.getByRole('columnheader', { name: 'Price, €' }).click();
  await expect(page).toHaveURL(/\?sort=price$/);
  await expect(grid.getByRole('columnheader', { name: 'Price, €' })).toHaveAttribute(
    'aria-sort',
    'ascending',
  );
  const cells = grid.locator('[role="gridcell"][data-field="price (€)"]');
  const prices = (await cells.allInnerTexts()).map((text) => Number(text.replace(',', '')));
  expect(prices.length).toBeGreaterThan(5);
  expect(prices).toEqual([...prices].sort((a, b) => a - b));
  await page.getByRole('searchbox', { name: 'Search' }).fill('LEHM');
  await page.keyboard.press('Enter');
  await expect(grid.getByRole('row')).toHaveCount(2);

  // Specs in the form; a removal can be undone.
  await row.getByRole('button', { name: 'Open Lehm 3' }).click();
  await page.getByLabel('sensitivity, dB re 1 V/Pa').fill('-33,5');
  await page.getByLabel('output impedance, Ω').fill('-3');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Output impedance lies between 0.1 and 100000 Ω.')).toBeVisible();
  await page.getByLabel('output impedance, Ω').fill('150');
  await page.getByLabel('Attributes of your own').fill('weight: 210 g; outputs: 1');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await row.getByRole('button', { name: 'Remove Lehm 3' }).click();
  await expect(row).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(row).toHaveCount(1);
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Export' }).click(),
  ]);
  const csv = readFileSync(await file.path(), 'utf8');
  expect(csv).toMatch(/\r\nLehm 3,microphone,,299\.9,,,,,owned,.*,-33\.5,12\.5,/);

  // Side by side: every fact that one of them has, and only what differs.
  await page.goto('/gear');
  for (const name of ['Lehm 3', 'Kern 40']) {
    await grid
      .getByRole('row')
      .filter({ hasText: name })
      .first()
      .getByRole('checkbox', { name: 'Select row' })
      .check();
  }
  await page.getByRole('link', { name: 'Side by side' }).click();
  const sheet = page.getByRole('table', { name: 'Items side by side' });
  const fact = (name: string) =>
    sheet.getByRole('row').filter({ has: page.getByRole('rowheader', { name, exact: true }) });
  await expect(fact('Weight')).toContainText('210 g');
  await expect(fact('Weight')).toContainText('not known');
  await expect(fact('Sensitivity (dB re 1 V/Pa)')).toContainText('-33.5');
  await expect(fact('Kind')).toHaveCount(1);
  await page.getByRole('switch', { name: 'Only what differs' }).check();
  await expect(fact('Kind')).toHaveCount(0);
  await expect(fact('Sensitivity (dB re 1 V/Pa)')).toHaveCount(1);
  expect(await axeFaults(page)).toEqual([]);
  // An address that names nothing of the studio says what to do.
  await page.goto(`/gear/side-by-side?ids=${crypto.randomUUID()},nothing`);
  await expect(page.getByText('Tick them in the gear list')).toBeVisible();
});

test('a plan from gear: chains, ladder, remedy, caution, copy and undo', async ({ page }) => {
  test.setTimeout(150_000);
  await signIn(page);
  await page.getByRole('link', { name: 'Start a comparison' }).click();
  await page.getByLabel('Title').fill('Quiet reader');
  await page.getByLabel('Who or what is heard').fill('Reader');
  await page.getByLabel('Passage').fill('page one');
  await page.getByRole('button', { name: 'Start' }).click();

  // Picked from the list, one item out of order, moved by keyboard.
  await page.getByRole('button', { name: 'Add a chain' }).click();
  const dialog = page.getByRole('dialog');
  for (const name of ['Pfad 4', 'Esker 7', 'Steg 8']) {
    await dialog.getByLabel('Add from the gear list').fill(name);
    await page.getByRole('option', { name }).click();
  }
  await expect(dialog.getByRole('status')).toContainText('does not begin with a microphone');
  const moved = dialog.getByRole('button', { name: 'Move Esker 7' });
  await moved.focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await expect(dialog.getByRole('status')).toContainText('dB short: no more gain.');
  // What is no number is said at its field, and nothing that was typed is lost.
  const distance = dialog.getByLabel('Distance, cm');
  // An item that is just let go takes the focus back once.
  await expect(async () => {
    await distance.fill('near');
    await expect(distance).toHaveValue('near', { timeout: 1000 });
  }).toPass();
  await dialog.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(dialog.getByText('“near” is not a number.')).toBeVisible();
  await distance.fill('50');
  await dialog.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(
    page.getByRole('heading', { name: /Esker 7 › Pfad 4 does not work out/ }),
  ).toBeVisible();
  await expect(
    page.getByText('Put Hebel 25 after the microphone.', { exact: false }),
  ).toBeVisible();
  await expect(page.getByRole('table', { name: 'Stages of Esker 7 › Pfad 4' })).toBeVisible();

  // A grid, and what is fair in it.
  await page.getByRole('button', { name: 'Make a grid' }).click();
  for (const [label, names] of [
    ['Microphones', ['Ostra R1', 'Kern 40']],
    ['Preamps', ['Linie 2', 'Tarn 1']],
  ] as const) {
    for (const name of names) {
      await dialog.getByLabel(label).fill(name);
      await page.getByRole('option', { name }).click();
    }
    await page.keyboard.press('Escape');
  }
  await page.getByRole('button', { name: 'Make 4 chains' }).click();
  await expect(page.getByText('Four chains added.')).toBeVisible();
  await expect(
    page.getByText('Only the preamp changes between Ostra R1 › Linie 2 and Ostra R1 › Tarn 1.'),
  ).toBeVisible();
  await expect(
    page.getByText(/things change between Esker 7 › Pfad 4 and Ostra R1 › Linie 2/),
  ).toBeVisible();

  // A caution that was read stays where it is.
  const caution = page.getByRole('note').filter({ hasText: 'Ribbon and phantom power' });
  await caution.getByRole('button', { name: 'I have read this' }).click();
  await expect(caution).toContainText('Read.');
  await expect(caution).toContainText('maker’s manual');

  // Removing can be undone; a level in the question changes the ladder.
  await page.getByRole('button', { name: 'Remove Esker 7 › Pfad 4' }).click();
  await expect(page.getByRole('heading', { name: 'Four chains to compare' })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('heading', { name: /does not work out/ })).toBeVisible();
  await step(page, 'Question').click();
  await expect(page.getByText('the gain ladder says what it assumes')).toBeVisible();
  await expect(async () => {
    await page.getByText('How loud it is').click();
    await expect(page.getByLabel('Level at 1 m, dB SPL')).toBeVisible({ timeout: 1000 });
  }).toPass();
  await page.getByLabel('Level at 1 m, dB SPL').fill('96');
  await page.getByLabel('Level at 1 m, dB SPL').blur();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  await step(page, 'Chains').click();
  await expect(page.getByRole('heading', { name: 'Five chains to compare' })).toBeVisible();

  // The plan can be copied; a copy without answers can be removed and brought back.
  await step(page, 'Question').click();
  await page.getByRole('button', { name: 'Copy the plan' }).click();
  await expect(page.getByRole('heading', { name: 'Quiet reader (copy)', level: 1 })).toBeVisible();
  await page.getByRole('button', { name: 'Remove the comparison' }).click();
  await expect(page.getByText('“Quiet reader (copy)” is removed.')).toBeVisible();
  await expect(page.getByRole('link', { name: 'Quiet reader (copy)' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: 'Quiet reader (copy)' })).toBeVisible();
});

test('a comparison with answers stays', async ({ page }) => {
  await signIn(page);
  await page.getByRole('link', { name: 'Contralto, which chain?' }).click();
  await step(page, 'Question').click();
  await page.getByRole('button', { name: 'Remove the comparison' }).click();
  await expect(
    page.getByText(/answers of listeners belong to “Contralto, which chain\?”/),
  ).toBeVisible();
});

test('a bench tool is shared by its address', async ({ page, context }) => {
  await signIn(page);
  await page.getByRole('link', { name: 'Bench tools' }).click();
  await page.getByRole('link', { name: 'Loading' }).click();
  await page.getByLabel('Input, Ω', { exact: true }).fill('600');
  await expect(page).toHaveURL(/load=600/);
  // A link to this very tool leaves what was typed; what is copied holds it.
  await page.getByRole('link', { name: 'Loading' }).click();
  await expect(page).not.toHaveURL(/load=600/);
  await page.getByRole('button', { name: 'Copy the address' }).click();
  await expect(page).toHaveURL(/load=600/);
  const finding = await page.getByRole('heading', { level: 1 }).textContent();
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByRole('heading', { level: 1 })).toHaveText(finding ?? '');
  await other.goto('/bench?tool=nothing&load=%00&load=2');
  await expect(other.getByRole('heading', { level: 1 })).toContainText('no more gain');
  await page.getByLabel('Input, Ω', { exact: true }).fill('nought');
  await expect(page.getByText('“nought” is not a number.')).toBeVisible();
});

test('two people change one chain: the second is told, and keeps what was typed', async ({
  page,
  context,
}) => {
  await signIn(page);
  await page.getByRole('link', { name: 'Start a comparison' }).click();
  await page.getByLabel('Title').fill('Shared desk');
  await page.getByLabel('Who or what is heard').fill('Cello');
  await page.getByLabel('Passage').fill('bridge');
  await page.getByRole('button', { name: 'Start' }).click();
  await page.getByRole('button', { name: 'Add a chain' }).click();
  await page.getByRole('dialog').getByLabel('Name').fill('First name');
  await page.getByRole('dialog').getByRole('button', { name: 'Add', exact: true }).click();
  const other = await context.newPage();
  await other.goto(page.url());
  for (const [window, name] of [
    [page, 'From window one'],
    [other, 'From window two'],
  ] as const) {
    await window.getByRole('button', { name: 'Change First name' }).click();
    await window.getByRole('dialog').getByLabel('Name').fill(name);
  }
  const keep = (window: Page) =>
    window.getByRole('dialog').getByRole('button', { name: 'Save', exact: true }).click();
  await keep(page);
  await expect(page.getByRole('dialog')).toHaveCount(0);
  // Window two is told, keeps what was typed there, and may write it over knowingly.
  await expect(
    other.getByText(/changed in another window meanwhile; it is called “From window one” now/),
  ).toBeVisible();
  await expect(other.getByRole('dialog').getByLabel('Name')).toHaveValue('From window two');
  await keep(other);
  await expect(other.getByRole('cell', { name: 'From window two', exact: true })).toBeVisible();
});

test('a price in another currency is taken at the rate that is written with it', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/gear?q=Saum 2');
  await page
    .getByRole('button', { name: /Saum 2/ })
    .first()
    .click();
  const dialog = page.getByRole('dialog');
  const quoted = dialog.getByLabel('Price in its own currency');
  await expect(quoted).toHaveValue('600 CHF at 0.9');
  await expect(dialog.getByLabel('Price, €')).toHaveValue('540');
  await quoted.fill('650 CHF');
  await dialog.getByLabel('Used, €').fill('400 to 300');
  await dialog.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(dialog.getByText(/Write the rate with it, as “650 CHF at 0.95”/)).toBeVisible();
  await quoted.fill('650 chf x 0,9');
  await dialog.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(dialog.getByText('Write the lower price first.')).toBeVisible();
  await dialog.getByLabel('Used, €').fill('300–400');
  await dialog.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(dialog).toHaveCount(0);
  await expect(page.getByRole('gridcell', { name: '585', exact: true })).toBeVisible();
});

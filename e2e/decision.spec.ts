import { createHash } from 'node:crypto';
import { expect, type Page, test } from '@playwright/test';
import { faults, signIn, wholeSitting } from './bank';

/** The demo's decision, on its whole sitting. */
async function openDecision(page: Page, open = ''): Promise<string> {
  await signIn(page);
  const { comparison, id: sitting } = await wholeSitting();
  await page.goto(`/comparisons/${comparison}/decision?sitting=${sitting}&open=${open}`);
  await expect(page.getByRole('table', { name: 'Chains side by side' })).toBeVisible();
  return comparison;
}

const matrixRow = (page: Page, name: string) =>
  page
    .getByRole('table', { name: 'Chains side by side' })
    .getByRole('row')
    .filter({ has: page.getByRole('rowheader', { name: new RegExp(`^${name}`) }) });

test('what was heard and what was seen stand side by side, and what was decided above', async ({
  page,
}) => {
  await openDecision(page);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'Four chains are left. In the mix: Kern 40 › Linie 2 or Kern 40 › Tarn 1 may be the best; Kern 40 › Linie 2 costs least of them.',
  );
  const decided = page.getByRole('region', { name: 'Decided' });
  await expect(
    decided.getByText('contralto, in the mix: Kern 40 › Linie 2, chosen.'),
  ).toBeVisible();
  await expect(matrixRow(page, 'Halde T2 › Tarn 1').getByText(/^out: works without/)).toBeVisible();
  await expect(matrixRow(page, 'Ostra R1 › Linie 2').getByText('the clip slips')).toBeVisible();
  await expect(
    matrixRow(page, 'Kern 40 › Linie 2').getByText('all', { exact: true }),
  ).toBeVisible();
  const margin = page.getByRole('complementary', { name: 'Margin' });
  await expect(
    margin.getByText(/more minutes \(6 listeners\) would change this choice/),
  ).toBeVisible();
  await expect(page.getByRole('img', { name: /^Liking against price/ })).toBeVisible();
  await expect(
    page.getByText(/^brought .* over 6 pairs of chains that differ there/),
  ).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Sittings read together' })).toBeVisible();
  await page.getByRole('button', { name: 'Cost in every form' }).click();
  // Bought used with its supply new; nobody rents the supply out.
  await expect(
    page
      .getByRole('table', { name: 'Cost in every form' })
      .getByRole('row')
      .filter({ hasText: 'Halde T2 › Linie 2' }),
  ).toContainText(/830 to 950 €, Halde supply new\s*28 € a day, Halde supply not for rent/);
  expect(await faults(page)).toEqual([]);
});

test('what was measured of chains stands beside all opinion', async ({ page }) => {
  await signIn(page);
  await page.goto('/');
  await page.getByRole('link', { name: 'Cello, is the valve only EQ?' }).click();
  const steps = page.getByRole('navigation', { name: 'Steps' });
  await steps.getByRole('link', { name: /^Decision/ }).click();
  await page.getByRole('button', { name: 'Measured', exact: true }).click();
  const row = page
    .getByRole('table', { name: 'What was measured' })
    .getByRole('row')
    .filter({ hasText: 'Kern 40 › Linie 2' });
  // A resistor was recorded, and gain was needed.
  await expect(row).toContainText(/−\d+\.\d dBFS/);
  await expect(row).toContainText(/\d+ of \d+ dB/);
  expect(await faults(page)).toEqual([]);
});

test('marks are written by keys, pasted and taken back', async ({ page }) => {
  await openDecision(page, 'marks');
  const grid = page.getByRole('grid', { name: 'Marks' });
  const cell = (item: string, column: number) =>
    grid
      .getByRole('row')
      .filter({ has: page.getByRole('gridcell', { name: item, exact: true }) })
      .getByRole('gridcell')
      .nth(column);
  await cell('Steg 8', 2).click();
  await page.keyboard.press('Enter');
  await page.keyboard.type('9 nobody gives that');
  await page.keyboard.press('Enter');
  await expect(page.getByText('“9 nobody gives that” is no mark')).toBeVisible();
  await page.keyboard.press('Escape');
  await cell('Steg 8', 2).click();
  await page.keyboard.press('Enter');
  await page.keyboard.type('2 gets hot');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Steg 8, build: 2.')).toBeVisible();
  // All chains hold it, and the lowest of their items counts.
  await expect(matrixRow(page, 'Kern 40 › Linie 2')).toContainText('2° · 3.5');
  await expect(
    matrixRow(page, 'Kern 40 › Linie 2').getByText('Steg 8, build: gets hot'),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(matrixRow(page, 'Kern 40 › Linie 2').getByText('gets hot')).toHaveCount(0);

  await cell('Linie 2', 3).click();
  const paste = (text: string) =>
    grid.evaluate((element, pasted) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData('text/plain', pasted);
      const focused = element.querySelector('[role=gridcell]:focus') ?? element;
      focused.dispatchEvent(
        new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }),
      );
    }, text);
  await paste('\tbuild\tservice\nLinie 9\t4\t4\n');
  await expect(page.getByText('There is no “Linie 9” here; nothing was pasted.')).toBeVisible();
  await paste('\tbuild\tservice\nSteg 8\t4\t5\nLinie 2\t4\t4 by post\n');
  await expect(page.getByText('Four marks pasted.')).toBeVisible();
  await expect(cell('Linie 2', 4)).toContainText('4 by post');
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(cell('Linie 2', 4)).not.toContainText('by post');
  expect(await faults(page)).toEqual([]);
});

test('a must-have can rest on a spec, and what then is out is out', async ({ page }) => {
  await openDecision(page, 'must-haves what-if');
  await page.getByRole('combobox', { name: /^What decides “works without/ }).click();
  await page.getByRole('option', { name: 'runs without phantom power' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'Four chains are left. In the mix: none of them may be the best.',
  );
  await expect(matrixRow(page, 'Kern 40 › Tarn 1').getByText('needs phantom power')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(
    'Kern 40 › Linie 2 costs least',
  );
  await expect(page.getByRole('table', { name: 'Totals' }).getByRole('row')).toHaveCount(5);
  expect(await faults(page)).toEqual([]);
});

test('a decision is locked on top of the one before, printed first, and fits a phone', async ({
  page,
}) => {
  const comparison = await openDecision(page);
  await page.getByRole('button', { name: 'Write a new version' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox', { name: 'Use 1' }).fill('');
  await dialog.getByRole('button', { name: 'Lock the decision' }).click();
  await expect(dialog.getByText('Write what it is for.')).toBeVisible();
  await dialog.getByRole('textbox', { name: 'Use 1' }).fill('contralto, on the road');
  // What is begun is not lost by closing, nor by coming back later.
  await dialog.getByRole('button', { name: 'Close' }).click();
  await expect(dialog).toBeHidden();
  await page.reload();
  await page.getByRole('button', { name: 'Write a new version' }).click();
  await expect(dialog.getByText(/^What you began on .* is here again/)).toBeVisible();
  await expect(dialog.getByRole('textbox', { name: 'Use 1' })).toHaveValue(
    'contralto, on the road',
  );
  await dialog.getByLabel('Listen again on').fill('2031-03-14');
  await dialog.getByRole('button', { name: 'Lock the decision' }).click();
  await expect(dialog).toBeHidden();
  const decided = page.getByRole('region', { name: 'Decided' });
  await expect(decided.getByText('contralto, on the road')).toBeVisible();
  await expect(decided.getByText(/^Version 2, .* Listen again on 14 Mar 2031\./)).toBeVisible();
  // A reason leads to what it rests on.
  await expect(decided.getByRole('link', { name: 'heard' }).first()).toHaveAttribute(
    'href',
    /\/results\?sitting=[0-9a-f-]{36}$/,
  );
  await page.getByRole('button', { name: 'One older version' }).click();
  await expect(page.locator('#versions').getByText(/^Version 1, /)).toBeVisible();

  const file = await page.request.get(`/api/comparisons/${comparison}/decision/decisions.json`);
  const { decisions } = (await file.json()) as { decisions: { text: string; sha256: string }[] };
  for (const { text, sha256 } of decisions) {
    expect(createHash('sha256').update(text).digest('hex')).toBe(sha256);
  }
  const calendar = await page.request.get(
    `/api/comparisons/${comparison}/decision/listen-again.ics`,
  );
  expect(await calendar.text()).toContain('DTSTART;VALUE=DATE:20310314');

  await page.setViewportSize({ width: 390, height: 844 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole('link', { name: 'Report' }).click();
  await expect(page.getByRole('heading', { name: 'The decision' })).toBeVisible();
  await expect(page.getByRole('table', { name: 'What lay on the table' })).toBeVisible();
  expect(await faults(page)).toEqual([]);
});

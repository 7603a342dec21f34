import { expect, type Page, test } from '@playwright/test';
import { faults, signIn } from './bank';

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

import { expect, type Page, test } from '@playwright/test';
import { demo, faults, settleIn, signIn, step } from './bank';

/** Screens are live: while others listen to the same comparison, one may never be quite at rest. */
async function comeToRest(page: Page): Promise<void> {
  await page.waitForLoadState('networkidle', { timeout: 5000 }).catch(() => undefined);
  await page.waitForTimeout(800);
}

test('every main screen of the engineer', async ({ page }) => {
  test.setTimeout(480_000);
  await page.goto('/sign-in');
  expect(await faults(page)).toEqual([]);
  await signIn(page);
  expect(await faults(page)).toEqual([]);
  await page.getByRole('link', { name: 'Contralto, which chain?' }).click();
  for (const name of ['Question', 'Chains', 'Takes', 'Match', 'Sitting', 'Results']) {
    await step(page, name).click();
    await expect(step(page, name)).toHaveAttribute('aria-current', 'page');
    await comeToRest(page);
    expect(await faults(page), name).toEqual([]);
  }
  const [, comparison] = /(\/comparisons\/[^/]+)/.exec(page.url()) ?? [];
  for (const address of [
    `${comparison}/run-sheet`,
    `${comparison}/takes?tab=measured`,
    '/gear',
    '/panel',
    '/decisions',
    '/decisions/heard',
    '/decisions/shortest?q=contralto',
    '/decisions/bridge',
    '/training',
    '/reports',
    '/people',
    '/log',
    '/bin',
    '/rooms',
    '/invitation/none',
    '/bench',
    '/bench?tool=cost',
  ]) {
    await page.goto(address);
    await comeToRest(page);
    expect(await faults(page), address).toEqual([]);
  }
  await page.goBack();
  await page.getByRole('button', { name: 'Lamplight' }).click();
  await page.waitForTimeout(300);
  expect(await faults(page), 'by lamplight').toEqual([]);
  // On a phone the places stand in a menu.
  await page.setViewportSize({ width: 390, height: 844 });
  await expect(page.getByRole('link', { name: 'Gear', exact: true })).toBeHidden();
  await page.getByRole('button', { name: 'Menu' }).click();
  await page.waitForTimeout(300);
  expect(await faults(page), 'the menu on a phone').toEqual([]);
  await page.getByRole('menuitem', { name: 'Gear' }).click();
  await expect(page).toHaveURL(/\/gear$/);
});

test('every page of the listener, by keyboard alone', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`/listen/${demo().listenerToken}`);
  expect(await faults(page)).toEqual([]);
  await settleIn(page, `/listen/${demo().listenerToken}`, 'Keyboard Kai');
  await expect(page.getByText('Pair 1 of 6')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Hear / })).toHaveCount(2);
  expect(await faults(page)).toEqual([]);
  await page.keyboard.press('1');
  await expect(page.getByText(/^Hear \S+ first\.$/)).toBeVisible();
  await page.keyboard.press('2');
  await expect(page.getByText('Now choose.')).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Pair 2 of 6')).toBeVisible();
});

import { expect, test } from '@playwright/test';
import {
  answerPair,
  beginPart,
  faults,
  hearByKeys,
  settleIn,
  signIn,
  startWithChains,
  step,
} from './bank';
import { tune, wav24 } from './sound';

const CHAINS = ['Rot 1', 'Gelb 2'];

test('names after each part, and own pairs once more with names and prices', async ({
  page,
  browser,
}) => {
  test.setTimeout(300_000);
  await signIn(page);
  await startWithChains(page, 'Names in view', CHAINS);
  await step(page, 'Takes').click();
  const music = tune(6, 0.05, 9);
  await page.locator('input[type=file]').setInputFiles(
    CHAINS.map((chain, i) => ({
      name: `${chain}.wav`,
      mimeType: 'audio/wav',
      buffer: wav24(music, i === 0 ? 0.5 : 0.4, 0),
    })),
  );
  await expect(page.getByText('being checked')).toHaveCount(0, { timeout: 60_000 });
  await step(page, 'Match').click();
  await page.getByRole('button', { name: 'Match the clips' }).click();
  await expect(page.getByRole('heading', { name: 'Two clips, equally loud' })).toBeVisible({
    timeout: 60_000,
  });

  await step(page, 'Sitting').click();
  await page.getByLabel('Trials for each').fill('2');
  await page.getByRole('checkbox', { name: /One clip against itself/ }).uncheck();
  await page.getByRole('checkbox', { name: /1 dB louder/ }).uncheck();
  await page.getByLabel('Asked twice').fill('0');
  // One word for each recording would name it in the parts to come.
  await page.getByRole('combobox', { name: 'Code words' }).click();
  await page.getByRole('option', { name: /one per recording/ }).click();
  await page.getByRole('combobox', { name: 'Names for listeners' }).click();
  await page.getByRole('option', { name: 'after each part' }).click();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText(/need fresh code words/)).toBeVisible();
  await page.getByRole('combobox', { name: 'Code words' }).click();
  await page.getByRole('option', { name: /fresh in each trial/ }).click();
  await page.getByRole('combobox', { name: /^Own pairs again/ }).click();
  await page.getByRole('option', { name: /^2 of each/ }).click();
  await expect(page.getByRole('cell', { name: /Names shown/ })).toBeVisible();
  await page.getByRole('button', { name: 'Seal and open' }).click();
  await page.getByRole('button', { name: 'Seal for good' }).click();
  const link = page.getByRole('link', { name: /\/listen\// });
  await expect(link).toBeVisible();

  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const phone = await context.newPage();
  await settleIn(phone, (await link.getAttribute('href')) ?? '', 'Ida');
  await answerPair(phone, 1, 'first');
  expect(await phone.content()).not.toContain(CHAINS[0]);
  await answerPair(phone, 2, 'second');
  await expect(phone.getByRole('heading', { name: 'Part 2 of 2: Names shown' })).toBeVisible();
  await phone.getByText('Your 2 answers, with the names').click();
  await expect(phone.getByText(/(Rot 1|Gelb 2) rather than (Rot 1|Gelb 2)/).first()).toBeVisible();
  expect(await faults(phone)).toEqual([]);
  await beginPart(phone, 2, 'Names shown');
  for (const pair of [1, 2]) {
    await expect(phone.getByText(`Pair ${pair} of 2`)).toBeVisible();
    await hearByKeys(phone, 2);
    await expect(phone.getByText('price not known')).toHaveCount(2);
    await phone.getByRole('button', { name: 'Rot 1 suits better' }).click();
    expect(await faults(phone)).toEqual([]);
    await phone.getByRole('button', { name: 'Done with this pair' }).click();
  }
  await expect(phone.getByRole('heading', { name: 'Thank you, Ida' })).toBeVisible();
  await context.close();

  await page.getByRole('button', { name: 'Close and open the key' }).click();
  await page.getByRole('button', { name: 'Close for good' }).click();
  await step(page, 'Results').click();
  await expect(page.getByText(/^Exploratory: names were told after each part/)).toBeVisible({
    timeout: 60_000,
  });
  await page.getByRole('button', { name: /^With names and prices/ }).click();
  const table = page.getByRole('table', { name: 'Choices with names and blind' });
  await expect(table.getByRole('row', { name: /^Rot 1/ })).toContainText('100 %');
  expect(await faults(page)).toEqual([]);
});

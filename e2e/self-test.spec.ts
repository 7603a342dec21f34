import { randomUUID } from 'node:crypto';
import { expect, test } from '@playwright/test';
import { answerTrial, beginPart, hearByKeys, query, signIn, step } from './bank';
import { collect, expectNothingTold, secretsOfBank } from './search';

test('an engineer tests their own ears: sealed, blind to the end, told at once, kept', async ({
  page,
  context,
}) => {
  test.setTimeout(420_000);
  await signIn(page);
  await page.getByRole('link', { name: 'Contralto, which chain?' }).click();
  await step(page, 'Match').click();
  const begin = page.getByRole('button', { name: 'Seal and begin' });
  await page.getByText('Test myself blind').click();
  // The panel is asked about the plain clips just now; those in the mix are free.
  await expect(begin).toBeDisabled();
  await expect(page.getByText('A sitting of the panel over these clips is open')).toBeVisible();
  await page.getByLabel('Clips to look at').click();
  await page
    .getByRole('option', { name: /in the mix/ })
    .first()
    .click();
  await expect(begin).toBeEnabled();
  await page.getByLabel('Trials', { exact: true }).click();
  await page.getByRole('option', { name: '10', exact: true }).click();
  await expect(page.getByText('7 of 10 right show')).toBeVisible();
  await begin.click();

  const listener = await context.newPage();
  const received = collect(listener);
  const link = page.getByRole('link', { name: 'take it now' });
  await listener.goto((await link.getAttribute('href')) ?? '');
  await expect(listener.getByText('After the last answer it is closed')).toBeVisible();
  await listener.getByLabel('A name for you').fill('Own ears');
  await listener.getByRole('checkbox').check();
  await listener.getByRole('button', { name: 'Begin' }).click();
  await listener.getByRole('button', { name: 'Play' }).click();
  await listener.getByRole('button', { name: 'The level is comfortable' }).click();
  // Practice is the first task on a made-up phrase.
  await expect(listener.getByRole('button', { name: /^Hear / })).toHaveCount(3);
  await hearByKeys(listener, 3);
  await listener
    .getByRole('button', { name: /is the odd one/ })
    .first()
    .click();
  await listener.getByRole('button', { name: 'Begin the sitting' }).click();
  for (let n = 0; n < 2; n++) await answerTrial(listener, 'triangle', 3);
  // The rest of them as the page sends them, without the time that hearing takes.
  const token = new URL(listener.url()).pathname.split('/').pop();
  const send = async (position: number, answer: object, clips: number) => {
    const heardS = Array.from({ length: clips }, () => 3);
    const data = { position, answer, key: randomUUID(), heardS, switches: clips, durationS: 12 };
    const headers = { origin: new URL(listener.url()).origin };
    const sent = await listener.request.post(`/api/listen/${token}/answer`, { data, headers });
    expect(sent.ok()).toBe(true);
  };
  await expect(listener.getByText(/ 3 of 10/)).toBeVisible();
  for (let position = 3; position <= 10; position++) await send(position, { slot: 0 }, 3);
  await listener.reload();
  await beginPart(listener, 2, 'Which one');
  await answerTrial(listener, 'pair', 2);
  await expect(listener.getByText(/ 2 of 6/)).toBeVisible();
  for (let position = 12; position <= 15; position++) await send(position, { choice: 'first' }, 2);
  await listener.reload();
  expectNothingTold(await received(), await secretsOfBank());
  await answerTrial(listener, 'pair', 2);
  await expect(listener.getByText('what follows is about you alone')).toBeVisible();
  await expect(listener.getByText(/of 10 right, where guessing gives 3/)).toBeVisible();
  await expect(listener.getByText(/Of your 6 choices/)).toBeVisible();

  await page.reload();
  await expect(page.getByText(/of 10 right, where guessing gives 3/)).toBeVisible();
  const [kept] = await query<{ answers: number }>(
    `SELECT count(*)::int AS answers FROM answer JOIN sitting ON sitting.id = sitting_id
     WHERE purpose = 'self-test'`,
  );
  expect(kept).toEqual({ answers: 16 });
});

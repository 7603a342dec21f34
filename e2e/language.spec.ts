import { expect, test } from '@playwright/test';
import { EVERY_TASK, faults, openSitting, query, signIn } from './bank';

const words = EVERY_TASK.find(({ task }) => task === 'words')!;

test('a listener is spoken to in the browser’s language, and words count as the same in all', async ({
  page,
  browser,
}) => {
  await signIn(page);
  const part = { ...words, trials: 2, prompt: 'Which words fit this recording?' };
  const { id, token } = await openSitting(page, [part], {});
  const context = await browser.newContext({
    viewport: { width: 390, height: 844 },
    locale: 'de-AT',
  });
  const phone = await context.newPage();
  await phone.goto(`/listen/${token}`);
  await expect(phone.locator('html')).toHaveAttribute('lang', 'de');
  await expect(phone.getByRole('heading', { name: 'Hör zu, und sag, was du hörst' })).toBeVisible();
  expect(await faults(phone)).toEqual([]);
  await phone.getByLabel('Ein Name für dich').fill('Lotte');
  await phone.getByRole('checkbox').check();

  // Another language, chosen by hand, is remembered; what was written stays.
  await phone.getByLabel('Sprache').selectOption('fr');
  await expect(
    phone.getByRole('heading', { name: 'Écoutez, et dites ce que vous entendez' }),
  ).toBeVisible();
  await expect(phone.locator('html')).toHaveAttribute('lang', 'fr');
  await expect(phone.getByLabel('Un nom pour vous')).toHaveValue('Lotte');
  const level = phone.getByRole('heading', { name: 'Réglez votre niveau une fois' });
  await phone.getByRole('button', { name: 'Commencer' }).click();
  await expect(level).toBeVisible();
  await phone.reload();
  await expect(level).toBeVisible();
  await context.addCookies([
    { name: 'zeitbank-language', value: 'de', url: new URL(phone.url()).origin },
  ]);
  await phone.reload();

  await phone.getByRole('button', { name: 'Abspielen' }).click();
  await phone.getByRole('button', { name: 'Der Pegel ist angenehm' }).click();
  await phone.getByRole('button', { name: / hören$/ }).click();
  await phone.getByRole('checkbox', { name: 'nichts davon' }).check();
  await phone.getByRole('button', { name: 'Die Sitzung beginnen' }).click();

  // The usual question and the usual words, in the listener's language.
  await expect(
    phone.getByRole('heading', { name: 'Welche Wörter passen zu dieser Aufnahme?' }),
  ).toBeVisible();
  await expect(phone.getByText('Durchgang 1 von 2')).toBeVisible();
  await phone.getByRole('button', { name: / hören$/ }).click();
  await phone.getByRole('checkbox', { name: 'dünn' }).check();
  await expect(phone.getByText('1 Wort angekreuzt. Es gibt kein Zurück.')).toBeVisible();
  expect(await faults(phone)).toEqual([]);
  await phone.getByRole('button', { name: 'Fertig mit diesem Durchgang' }).click();
  await expect(phone.getByText('Durchgang 2 von 2')).toBeVisible();
  await expect
    .poll(() => query('SELECT answer FROM answer WHERE sitting_id = $1', [id]))
    .toMatchObject([{ answer: { words: ['thin'] } }]);

  // A refusal is said in the same language.
  const refused = await phone.request.post(`/api/listen/${token}/answer`, {
    headers: { origin: new URL(phone.url()).origin, 'accept-language': 'de' },
    data: {
      position: 1,
      answer: { words: ['warm'] },
      key: 'a1b2c3d4-0000-4000-8000-000000000000',
      heardS: [9],
      switches: 0,
      durationS: 9,
    },
  });
  expect(refused.status()).toBe(409);
  expect(await refused.json()).toEqual({
    error: 'Dieser Durchgang ist schon beantwortet; die erste Antwort bleibt.',
  });
  await context.close();
});

test('pages of whoever runs a room stay in English', async ({ page, browser }) => {
  await signIn(page);
  const { conductor } = await openSitting(page, [EVERY_TASK[0]!], { room: 'together' });
  const cookies = (await page.context().cookies()).filter(({ name }) => /device|room/.test(name));
  const context = await browser.newContext({ locale: 'es' });
  await context.addCookies(cookies);
  const stage = await context.newPage();
  await stage.goto(`/conduct/${conductor}`);
  await expect(stage.locator('[lang=en] main')).toBeVisible();
  await context.close();
});

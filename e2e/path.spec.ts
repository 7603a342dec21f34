import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { answerPair, faults, query, settleIn, signIn, startComparison, step } from './bank';
import { tune, wav24 } from './sound';

const music = tune(14, 0.002, 7);
const file = (name: string, buffer: Buffer) => ({ name, mimeType: 'audio/wav', buffer });

test('from recorded files to a revealed blind result', async ({ page, browser }) => {
  test.setTimeout(540_000);
  await signIn(page);

  // A question and two chains.
  await page.getByRole('link', { name: 'Start a comparison' }).click();
  await page.getByLabel('Title').fill('Lute, which chain?');
  await page.getByLabel('Who or what is heard').fill('Lute');
  await page.getByLabel('Passage').fill('opening');
  await page.getByRole('button', { name: 'Start' }).click();
  await expect(page.getByRole('heading', { name: 'No chain named yet' })).toBeVisible();
  for (const name of ['Grün 1', 'Blau 2']) {
    await page.getByRole('button', { name: 'Add a chain' }).click();
    await page.getByLabel('Name').fill(name);
    await page.getByLabel('Price in all, €').fill('450,50');
    await page.getByRole('button', { name: 'Add', exact: true }).click();
    await expect(page.getByRole('cell', { name, exact: true })).toBeVisible();
  }
  await expect(page.getByRole('cell', { name: /450\.50 €/ })).toHaveCount(2);

  // Takes: good ones, and what people drop by mistake.
  await step(page, 'Takes').click();
  const first = file('Grün_1 🎸.wav', wav24(music, 0.9, 0));
  await page
    .locator('input[type=file]')
    .setInputFiles([
      first,
      file('Blau_2.wav', wav24(music, -0.35, 137)),
      file('damaged.wav', Buffer.from('RIFF????WAVEnothing of use')),
      file('empty.wav', Buffer.alloc(0)),
      file('clipped.wav', wav24(tune(3, 0, 9), 8, 0)),
      { name: 'photo.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('no sound') },
    ]);
  await expect(page.getByText('This file is empty (0 bytes); nothing was sent.')).toBeVisible();
  await expect(page.getByText('Only WAV and FLAC files')).toBeVisible();
  await expect(page.getByText(/This file cannot be used/)).toBeVisible();
  await expect(page.getByText(/the take is clipped/)).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Two takes, one for each chain' })).toBeVisible();
  await expect(page.getByRole('combobox', { name: /Grün_1 🎸/ })).toHaveText('Grün 1');
  await expect(page.getByRole('combobox', { name: /Blau_2/ })).toHaveText('Blau 2');
  // Of two equal files the one that arrives first stays.
  await page.locator('input[type=file]').setInputFiles([file('Grün_1 copy.wav', first.buffer)]);
  await expect(page.getByText('The same recording is here already as')).toBeVisible();
  await page.getByRole('button', { name: 'Play Blau_2.wav' }).click();
  await expect(page.getByRole('button', { name: 'Stop Blau_2.wav' })).toBeVisible();

  // Passage and match.
  await step(page, 'Match').click();
  await page.getByLabel('Passage from, s').fill('2');
  await page.getByLabel('Passage from, s').blur();
  await page.getByLabel('to, s', { exact: true }).fill('7');
  await page.getByLabel('to, s', { exact: true }).blur();
  await expect(page.getByLabel('to, s', { exact: true })).toHaveValue('7.00');
  await page.getByRole('slider', { name: 'Passage on the drawing' }).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect(page.getByLabel('to, s', { exact: true })).toHaveValue('7.20');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Shift+ArrowLeft');
  await expect(page.getByLabel('to, s', { exact: true })).toHaveValue('7.00');
  await expect(page.getByLabel('Passage from, s')).toHaveValue('2.00');
  // A change that takes long to arrive does not undo the one that came after it.
  await expect
    .poll(() =>
      query(
        'SELECT from_s::float8 AS "from", to_s::float8 AS "to" FROM passage WHERE comparison_id = $1',
        [/comparisons\/([^/]+)/.exec(page.url())?.[1] ?? ''],
      ),
    )
    .toEqual([{ from: 2, to: 7 }]);
  let changes = 0;
  await page.route(/\/passages\/[^/]+$/, async (route) => {
    if (route.request().method() === 'PUT' && changes++ === 0) await page.waitForTimeout(1500);
    await route.continue();
  });
  const drawing = page.getByRole('slider', { name: 'Passage on the drawing' });
  let replies = 0;
  const arrived = page.waitForResponse(
    (reply) => /\/passages\/[^/]+$/.test(reply.url()) && ++replies === 2,
  );
  await drawing.press('Shift+ArrowRight');
  await expect(page.getByLabel('to, s', { exact: true })).toHaveValue('7.10');
  await drawing.press('Shift+ArrowLeft');
  await expect(page.getByLabel('to, s', { exact: true })).toHaveValue('7.00');
  await arrived;
  await page.unroute(/\/passages\/[^/]+$/);
  await page.reload();
  await expect(page.getByLabel('to, s', { exact: true })).toHaveValue('7.00');
  await page.getByRole('button', { name: 'Match the clips' }).click();
  await expect(page.getByRole('heading', { name: 'Two clips, equally loud' })).toBeVisible();
  const other = page.getByRole('row', { name: /^Blau 2/ });
  await expect(other).toContainText('flipped, corrected');
  // 137 samples at 48 kHz.
  await expect(other).toContainText('+2.85 ms');

  // Plan, seal, invite.
  await page.getByRole('link', { name: 'Use in a sitting' }).click();
  await page.getByLabel('What listeners are told they hear').fill('A lute through the Grün 1');
  await page.getByLabel('Trials for each').fill('2');
  await page.getByLabel(/One clip against itself/).uncheck();
  await page.getByLabel(/One clip 1 dB louder/).uncheck();
  await page.getByLabel('Asked twice').fill('0');
  await page.getByLabel('Listeners, at most').fill('4');
  await page.getByRole('button', { name: 'Seal and open' }).click();
  await page.getByRole('button', { name: 'Seal for good' }).click();
  await expect(
    page.getByText('“grun 1”, which stands for “Grün 1”; take it out of the texts for them'),
  ).toBeVisible();
  await page.getByLabel('What listeners are told they hear').fill('A lute');
  await page.getByRole('button', { name: 'Seal and open' }).click();
  await page.getByRole('button', { name: 'Seal for good' }).click();
  const invitation = page.getByRole('link', { name: /\/listen\// });
  await expect(invitation).toBeVisible();
  const link = await invitation.textContent();
  await expect(page.getByRole('img', { name: /QR code/ })).toBeVisible();
  await step(page, 'Results').click();
  await expect(page.getByRole('heading', { name: 'The key is shut' })).toBeVisible();

  // Two listeners, one of them on a phone who leaves and comes back.
  let seal = '';
  let last = page;
  for (const [alias, size] of [
    ['Aino', { width: 1280, height: 800 }],
    ['Bruno', { width: 390, height: 844 }],
  ] as const) {
    const context = await browser.newContext({ viewport: size });
    const listener = await context.newPage();
    await settleIn(listener, link ?? '', alias);
    await answerPair(listener, 1, 'first');
    await expect(listener.getByText('Pair 2 of 2')).toBeVisible();
    await listener.reload();
    await answerPair(listener, 2, 'tie');
    await expect(listener.getByRole('heading', { name: `Thank you, ${alias}` })).toBeVisible();
    seal = (await listener.locator('code').first().textContent()) ?? '';
    last = listener;
  }

  // The engineer sees counts arrive, closes, and reads.
  await step(page, 'Sitting').click();
  await expect(
    page.getByRole('heading', { name: /Two listeners have come, 2 are done/ }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Close and open the key' }).click();
  await page.getByRole('button', { name: 'Close for good' }).click();
  await expect(page).toHaveURL(/\/results\?sitting=/);
  await expect(
    page.getByRole('heading', { name: 'Two listeners: too few for a verdict about a panel.' }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'One part' }).click();
  await page.getByRole('button', { name: /too few for a verdict/ }).click();
  await expect(page.getByText(/4 answers of 2 listeners/)).toBeVisible();
  await expect(page.getByText('pair answers from 2 listeners', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Key and files' }).click();
  const [key] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Key (JSON)' }).click(),
  ]);
  const bytes = readFileSync(await key.path());
  expect(createHash('sha256').update(bytes).digest('hex')).toBe(seal);
  // The listener has the same key from the page where the receipt was, and their own answers with the names.
  await last.reload();
  await last.getByText('Your 2 answers, with the names').click();
  await expect(last.getByText(/(Grün 1|Blau 2) rather than (Grün 1|Blau 2)/)).toBeVisible();
  await expect(
    last.getByText(/^(Grün 1 and Blau 2|Blau 2 and Grün 1): no preference$/),
  ).toBeVisible();
  expect(await faults(last)).toEqual([]);
  const [own] = await Promise.all([
    last.waitForEvent('download'),
    last.getByRole('link', { name: 'The key (JSON)' }).click(),
  ]);
  expect(readFileSync(await own.path()).equals(bytes)).toBe(true);
  // And the clips can be had as they were sealed.
  await page.getByText('The 2 clips as they were sealed').click();
  const [clip] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: /…$/ }).first().click(),
  ]);
  const sha256 = createHash('sha256')
    .update(readFileSync(await clip.path()))
    .digest('hex');
  expect(bytes.toString()).toContain(sha256);
  const [answers] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'All answers (CSV)' }).click(),
  ]);
  expect(
    readFileSync(await answers.path(), 'utf8')
      .trim()
      .split('\r\n').length,
  ).toBe(5);

  // The link now leads to a closed door.
  const late = await (await browser.newContext()).newPage();
  await late.goto(link ?? '');
  await expect(late.getByRole('heading', { name: 'This sitting is closed' })).toBeVisible();
});

test('takes of different performances are recognised, and say what to do', async ({ page }) => {
  await signIn(page);
  await startComparison(page, 'Two performances', 'Lute', 'opening');
  await step(page, 'Takes').click();
  await page.locator('input[type=file]').setInputFiles([
    file('one.wav', wav24(tune(8, 0.2, 1), 0.5, 0)),
    file(
      'two.wav',
      wav24(
        tune(8, 0, 2).map((_, n) => 0.4 * Math.sin(n * n * 1e-6)),
        0.5,
        0,
      ),
    ),
  ]);
  for (const name of ['one', 'two']) {
    await page.getByRole('combobox', { name: `Chain of ${name}.wav` }).click();
    await page.getByRole('option', { name: 'a new chain of this name' }).click();
    await expect(page.getByRole('combobox', { name: `Chain of ${name}.wav` })).toHaveText(name);
  }
  await expect(page.getByRole('heading', { name: 'Two takes, one for each chain' })).toBeVisible();
  await step(page, 'Match').click();
  // Before anything is matched the passage is heard as it was recorded.
  await page.getByRole('button', { name: 'Hear the passage' }).click();
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText('It is not played')).toBeHidden();
  await page.getByRole('button', { name: 'Match the clips' }).click();
  await expect(
    page.getByText(/do not look like the same performance; align this take by onsets/),
  ).toBeVisible();
  await page.getByText('How takes are laid in time').click();
  await page.getByRole('combobox', { name: 'Alignment of two' }).click();
  await page.getByRole('option', { name: 'by hand' }).click();
  // The marker stands in the drawing of the take itself.
  await expect(page.getByRole('img', { name: /^Marker at/ })).toBeVisible();
  await page.getByRole('combobox', { name: 'Alignment of two' }).click();
  await page.getByRole('option', { name: 'by onsets (repeated performance)' }).click();
  await page.getByRole('button', { name: 'Match again' }).click();
  await expect(page.getByRole('heading', { name: 'Two clips, equally loud' })).toBeVisible();
});

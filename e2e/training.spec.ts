import { expect, type Page, test } from '@playwright/test';
import { loudnessOf } from '../src/core/loudness/meter';
import { soundOf } from '../src/core/signal/sound';
import { decodeWav } from '../src/core/wav/read';
import { faults, query, signIn, wholeSitting } from './bank';

/** Keeps every file that the page decodes to play it. */
async function keepSounds(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const heard: string[] = [];
    Object.assign(window, { heard });
    // eslint-disable-next-line @typescript-eslint/unbound-method -- called on the context it is asked of
    const decode = OfflineAudioContext.prototype.decodeAudioData;
    OfflineAudioContext.prototype.decodeAudioData = function (bytes, ...more) {
      const all = new Uint8Array(bytes);
      let text = '';
      for (let at = 0; at < all.length; at += 0x8000) {
        text += String.fromCharCode(...all.subarray(at, at + 0x8000));
      }
      heard.push(btoa(text));
      return decode.call(this, bytes, ...more);
    };
  });
}

/** Loudness of the three sounds of the trial that was made last, off their bytes. */
async function lastThree(page: Page): Promise<number[]> {
  const files = await page.evaluate(() =>
    (window as unknown as { heard: string[] }).heard.slice(-3),
  );
  return Promise.all(
    files.map(async (text) => {
      const { header, channels } = await decodeWav(new Uint8Array(Buffer.from(text, 'base64')));
      return loudnessOf(soundOf(channels), header.format.sampleRateHz)!;
    }),
  );
}

/** A link by which somebody of the panel trains. */
async function linkFor(page: Page, name: string): Promise<string> {
  const make = page.getByRole('button', { name: 'Make links' });
  // What is found is listed anew while somebody types; a click in between can miss.
  await expect(async () => {
    if (await make.isDisabled()) {
      await page.getByRole('combobox', { name: 'From the panel' }).fill(name);
      await page.getByRole('option', { name }).click({ timeout: 3000 });
    }
    await expect(make).toBeEnabled({ timeout: 1000 });
  }).toPass();
  await make.click();
  const link = page.getByText(/\/train\//);
  await expect(link).toBeVisible();
  return link.innerText();
}

const NAMES = ['First', 'Second', 'Third'] as const;

/** Waits until a sound was heard for as long as an answer asks for. */
function heardEnough(page: Page, name: string): Promise<void> {
  return expect(
    page.getByRole('button', { name: `Hear ${name}` }).and(page.locator('[data-heard]')),
  ).toBeVisible();
}

/** Hears all three and answers by what their bytes say. @returns by how much the odd one differs, dB */
async function answerByBytes(page: Page, trial: number): Promise<number> {
  await expect(page.getByText(`this is ${trial}`)).toBeVisible();
  for (const name of NAMES) {
    await page.getByRole('button', { name: `Hear ${name}` }).click();
    await heardEnough(page, name);
  }
  const [a, b, c] = (await lastThree(page)) as [number, number, number];
  // The two that are alike are the same bytes.
  const odd = a === b ? 2 : a === c ? 1 : 0;
  const by = [a, b, c][odd]! - [a, b, c][(odd + 1) % 3]!;
  await page.getByRole('button', { name: `${NAMES[odd]} differs` }).click();
  await expect(page.getByText(/^Right: the /)).toBeVisible();
  return by;
}

test('somebody of the panel is tested on a phone, and a step of 1 dB is 1 dB on the bytes', async ({
  page,
  browser,
}) => {
  test.setTimeout(420_000);
  await signIn(page);
  await page.getByRole('link', { name: 'Training' }).click();
  await page.getByRole('combobox', { name: 'Test of' }).click();
  await page.getByRole('option', { name: 'Level steps' }).click();
  await page.getByRole('button', { name: 'Add the test' }).click();
  await expect(page.getByText('1.0 dB: Level steps')).toBeVisible();
  const link = await linkFor(page, 'Dario');
  expect(await faults(page)).toEqual([]);

  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const phone = await context.newPage();
  await keepSounds(phone);
  await phone.goto(link);
  await expect(phone.getByRole('heading', { name: 'Train your ears, Dario' })).toBeVisible();
  await expect(phone.getByText(/Loud listening harms hearing/)).toBeVisible();
  expect(await faults(phone)).toEqual([]);
  // What somebody of the panel is sent names no chain.
  // The demo's own, which are long enough not to stand in a page by chance.
  const names = await query<{ name: string }>(
    'SELECT chain.name FROM chain JOIN comparison ON comparison.id = comparison_id WHERE simulated',
  );
  expect(names.length).toBeGreaterThan(5);
  for (const { name } of names) expect(await phone.content()).not.toContain(name);
  await phone.getByRole('button', { name: /^1\.0 dB: Level steps/ }).click();
  const steps: number[] = [];
  for (let trial = 1; trial <= 16; trial++) {
    steps.push(await answerByBytes(phone, trial));
    if (trial === 1) expect(await faults(phone)).toEqual([]);
    if (trial === 4) {
      // A page that is opened anew goes on where it was.
      await expect
        .poll(
          async () =>
            (
              await query(
                'SELECT 1 FROM ear_answer JOIN ear_session ON id = session_id WHERE ended_at IS NULL',
              )
            ).length,
        )
        .toBeGreaterThanOrEqual(4);
      await phone.reload();
      continue;
    }
    if (trial === 8) await context.setOffline(true);
    if (trial === 10) {
      await expect(phone.getByText(/wait on this device/)).toBeVisible();
      await context.setOffline(false);
    }
    await phone
      .getByRole('button', { name: trial === 16 ? 'See what it came to' : 'Next' })
      .click();
  }
  for (const step of steps) expect(Math.abs(Math.abs(step) - 1)).toBeLessThan(0.02);
  await expect(phone.getByText(/1\.0 dB: heard \(16 of 16 right/).first()).toBeVisible();
  const kept = await query<{ n: number }>(
    `SELECT count(*)::int AS n FROM ear_answer JOIN ear_session ON id = session_id JOIN panelist ON panelist.id = panelist_id
     WHERE alias = 'Dario' GROUP BY session_id, begun_at ORDER BY begun_at DESC LIMIT 1`,
  );
  expect(kept).toEqual([{ n: 16 }]);
  await context.close();
});

test('somebody of the panel learns two chains, in a language of their own', async ({
  page,
  browser,
}, { retry }) => {
  test.setTimeout(240_000);
  const title = `Two of the room, try ${retry + 1}`;
  await signIn(page);
  await page.goto('/training');
  const choose = async (label: string, option: string) => {
    await page.getByRole('combobox', { name: label, exact: true }).click();
    await page.getByRole('option', { name: option }).click();
  };
  const on = 'Duo in the room, which pair? · Clarinet and cello, in the room, refrain';
  await choose('Clip', `${on} · Wehr S3 pair, near`);
  await choose('and of', `${on} · Kern 40 pair, wide`);
  await page.getByLabel('Title for the panel').fill(title);
  await page.getByRole('button', { name: 'Add the sound' }).click();
  await expect(page.getByText(`${title}, two chains`)).toBeVisible();
  const link = await linkFor(page, 'Edda');

  const context = await browser.newContext({
    viewport: { width: 390, height: 844 },
    locale: 'fr-CA',
  });
  const phone = await context.newPage();
  await keepSounds(phone);
  const sent: string[] = [];
  phone.on('response', (reply) => {
    if (reply.url().includes('/sounds/')) sent.push(reply.url());
  });
  await phone.goto(link);
  await expect(phone.getByRole('heading', { name: 'Exercez votre oreille, Edda' })).toBeVisible();
  expect(await faults(phone)).toEqual([]);
  await phone
    .getByRole('combobox', { name: /^Ce que vous exercez/ })
    .selectOption({ label: 'Deux chaînes apprises' });
  await expect(phone.getByRole('combobox', { name: /^Sur/ })).toContainText(title);
  await phone.getByRole('button', { name: 'Commencer' }).click();
  await expect(phone.getByText('Au plus 40 essais · voici le n° 1')).toBeVisible();
  expect(new Set(sent.map((url) => url.endsWith('?other=1')))).toEqual(new Set([true, false]));
  const words = ['Premier', 'Deuxième', 'Troisième'];
  for (const word of words) {
    const slip = phone.getByRole('button', { name: `Écouter ${word}` });
    await slip.click();
    await expect(slip.and(phone.locator('[data-heard]'))).toBeVisible();
  }
  const three = await lastThree(phone);
  expect(Math.max(...three) - Math.min(...three)).toBeLessThan(0.05);
  await phone.getByRole('button', { name: 'Premier : il diffère' }).click();
  await expect(
    phone.getByText(/^(Juste|Pas cette fois) : le \S+, de 100 % de la différence\./),
  ).toBeVisible();
  expect(await faults(phone)).toEqual([]);
  await phone.getByRole('button', { name: 'Arrêter ici' }).click();
  await expect(phone.getByText(/Arrêté après 1 réponse, trop peu/).first()).toBeVisible();

  // Nothing that was received tells of a chain.
  const all = await phone.content();
  for (const { name } of await query<{ name: string }>(
    'SELECT chain.name FROM chain JOIN comparison ON comparison.id = comparison_id WHERE simulated',
  )) {
    expect(all).not.toContain(name);
  }
  await page.getByRole('button', { name: `Delete ${title}` }).click();
  await expect(page.getByText(`${title}, two chains`)).toBeHidden();
  await context.close();
});

test('an engineer trains at a desk by keys, and is told what came of it', async ({ page }) => {
  test.setTimeout(240_000);
  await keepSounds(page);
  await signIn(page);
  await page.goto('/training');
  // The demo’s sessions are drawn with their uncertainty.
  await expect(page.getByRole('img', { name: /^Level steps: / })).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.getByRole('link', { name: /^(Train now|Go on)$/ }).click();
  // One that an earlier try left open ends first.
  const end = page.getByRole('button', { name: /^End (here|this session)$/ });
  await expect(end.or(page.getByRole('button', { name: 'Begin' }))).toBeVisible();
  if (await end.isVisible()) await end.click();
  // Clips that the panel is asked about just now stay shut here, too.
  await page.getByRole('combobox', { name: /^On/ }).selectOption({
    label: 'Contralto, which chain? · Contralto, quiet verse · Kern 40 › Linie 2',
  });
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('main').getByRole('alert')).toContainText('sitting');
  await page.getByRole('button', { name: 'End this session' }).click();

  await page
    .getByRole('combobox', { name: /^What to train/ })
    .selectOption({ label: 'Boost and cut of a band' });
  await page.getByRole('combobox', { name: /^around/ }).selectOption({ label: '1 kHz' });
  await page.getByRole('combobox', { name: /^On/ }).selectOption({ label: 'pink noise' });
  await page.getByRole('button', { name: 'Begin' }).click();
  for (let trial = 1; trial <= 3; trial++) {
    await expect(page.getByText(`this is ${trial}`)).toBeVisible();
    for (const [slot, name] of NAMES.entries()) {
      await page.keyboard.press(String(slot + 1));
      await heardEnough(page, name);
    }
    const three = await lastThree(page);
    expect(Math.max(...three) - Math.min(...three)).toBeLessThan(0.05);
    await page.keyboard.press('q');
    await expect(page.getByText(/^(Right|Not this time): the /)).toBeVisible();
    await page.keyboard.press('Enter');
  }
  await page.getByRole('button', { name: 'End here' }).click();
  await expect(page.getByText(/Ended after 3 answers, too few/)).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.getByRole('link', { name: /^Sessions, progress/ }).click();
  await expect(page.getByRole('table', { name: 'Sessions' })).toContainText('pink noise');
});

test('results set the panel’s ears beside what two chains differ by', async ({ page }) => {
  await signIn(page);
  const { comparison, id: sitting } = await wholeSitting();
  await page.goto(`/comparisons/${comparison}/results?sitting=${sitting}`);
  await page.getByRole('button', { name: /^Listeners/ }).click();
  await expect(page.getByRole('heading', { name: 'Their ears' })).toBeVisible();
  await expect(
    page.getByText(
      /^Around 3 kHz the chains differ by .* pairs by 1\.0 dB or more\. Of 9 of this panel .* were shown to hear 1\.0 dB or less\.$/,
    ),
  ).toBeVisible();
});

test('a link that leads nowhere says so', async ({ page }) => {
  await page.goto('/train/AAAAAAAAAAAAAAAAAAAA');
  await expect(page.getByRole('heading', { name: 'This link leads to no training' })).toBeVisible();
  await page.goto('/train/x');
  await expect(page.getByRole('heading', { name: 'This link leads to no training' })).toBeVisible();
});

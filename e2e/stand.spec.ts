import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, type Locator, type Page, type Request, test } from '@playwright/test';
import { unzipSync, zipSync } from 'fflate';
import { faults, query, signIn, startComparison, startWithChains, step } from './bank';
import { tune, wav24, wavOf } from './sound';

const music = tune(12, 0.002, 21);
const file = (name: string, buffer: Buffer) => ({ name, mimeType: 'audio/wav', buffer });

async function drag(page: Page, from: Locator, to: Locator): Promise<void> {
  await from.scrollIntoViewIfNeeded();
  const [a, b] = [await from.boundingBox(), await to.boundingBox()];
  if (!a || !b) throw new Error('nothing to drag');
  await page.mouse.move(a.x + a.width / 2, a.y + a.height / 2);
  await page.mouse.down();
  await page.mouse.move(a.x + 30, a.y - 30, { steps: 5 });
  await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 12 });
  await page.mouse.up();
}

/** Nothing of the page has been read anew for a second: a reading that a network takes along ends on the browser's own page. */
async function settled(page: Page): Promise<void> {
  // One that was under way before is none of these, and neither is its end.
  const open = new Set<Request>();
  let since = Date.now();
  const begun = (request: Request) => {
    if (!('rsc' in request.headers())) return;
    open.add(request);
    since = Date.now();
  };
  const ended = (request: Request) => {
    if (open.delete(request)) since = Date.now();
  };
  page.on('request', begun).on('requestfinished', ended).on('requestfailed', ended);
  await expect.poll(() => open.size === 0 && Date.now() - since > 1000).toBe(true);
}

test('the run sheet goes on without a connection, and what was written arrives once', async ({
  page,
  context,
}) => {
  await signIn(page);
  const id = await startWithChains(page, 'At the stand', ['Rot 1', 'Gelb 2']);
  await step(page, 'Takes').click();
  await page.getByRole('link', { name: 'Plan the recording' }).click();
  await page.getByLabel('Order of the chains').click();
  await page.getByRole('option', { name: /^rotated/ }).click();
  await page.getByRole('button', { name: 'Write the sheet' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('0 of 8 lines done');
  await page.setViewportSize({ width: 390, height: 844 });
  const quiet = settled(page);
  await page.getByLabel('Done: Rot 1, take 1').check();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('1 of 8 lines done');
  await quiet;
  await context.setOffline(true);
  await page.getByLabel('Done: Gelb 2, take 1').check();
  const gain = page.getByLabel('Real gain, dB of Gelb 2, take 1');
  await gain.fill('much');
  await gain.blur();
  await expect(page.getByText('“much” is not a number.')).toBeVisible();
  await gain.fill('41,5');
  await gain.blur();
  await expect(page.getByText('One entry waits on this device.')).toBeVisible();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('2 of 8 lines done');
  await context.setOffline(false);
  await expect(page.getByText('waits on this device')).toHaveCount(0);
  const rows = await query<{ gain_db: number | null }>(
    'SELECT gain_db FROM run_line WHERE comparison_id = $1 AND done ORDER BY position',
    [id],
  );
  expect(rows.map((row) => row.gain_db)).toEqual([null, 41.5]);
  await page.reload();
  await expect(gain).toHaveValue('41.5');
});

test('a performance of all chains is one line, and steps are the engineer’s own', async ({
  page,
}) => {
  await signIn(page);
  const id = await startWithChains(page, 'Side by side', ['Rot 1', 'Gelb 2']);
  await step(page, 'Takes').click();
  await page.getByRole('link', { name: 'Plan the recording' }).click();
  await page.getByRole('checkbox', { name: 'plain speech on axis' }).uncheck();
  await page.getByRole('checkbox', { name: 'a step of one’s own' }).check();
  const write = page.getByRole('button', { name: 'Write the sheet' });
  await expect(page.getByText('Say for “a step of one’s own”: what.')).toBeVisible();
  await expect(write).toBeDisabled();
  const what = page.getByRole('combobox', { name: /^a step of one’s own/ });
  await what.fill('key clicks');
  await what.press('Enter');
  await write.click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('0 of 4 lines done');
  // On paper everything is open.
  const later = page.getByLabel('Real gain, dB of Gelb 2, take 2');
  await expect(later).toBeHidden();
  await page.evaluate(() => window.dispatchEvent(new Event('beforeprint')));
  await expect(later).toBeVisible();
  await page.getByLabel('Done: performance 1, all chains').check();
  await page.getByLabel('Done: key clicks, all chains').check();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('2 of 4 lines done');
  await expect
    .poll(() =>
      query<{ programme: string; done: number }>(
        `SELECT programme, (count(*) FILTER (WHERE done))::int AS done FROM run_line
         WHERE comparison_id = $1 GROUP BY programme ORDER BY programme`,
        [id],
      ),
    )
    .toEqual([
      { programme: 'own', done: 2 },
      { programme: 'performance', done: 2 },
      { programme: 'room', done: 0 },
    ]);
  await page.getByRole('link', { name: 'To the takes' }).click();
  const files = ['Rot 1_take1.wav', 'Gelb 2_take1.wav', 'Rot 1_room.wav'].map((name, i) => ({
    name,
    mimeType: 'audio/wav',
    buffer: wav24(tune(4, 0.01, i), 0.5, 0),
  }));
  await page.locator('input[type=file]').setInputFiles(files);
  await page.getByRole('tab', { name: 'Measured · 5 missing' }).click({ timeout: 60_000 });
  const matrix = page.getByRole('table', { name: 'Takes of every chain and step' });
  await expect(matrix.getByRole('row').filter({ hasText: 'Gelb 2' })).toHaveText(
    'Gelb 21 of 2missingmissing',
  );
  await expect(matrix.getByRole('row').filter({ hasText: 'Rot 1' })).toHaveText(
    'Rot 11 of 21missing',
  );

  // Any two: the curve with its level, and what is left when one is taken from the other.
  await page.getByRole('combobox', { name: 'This one' }).click();
  await page.getByRole('option', { name: 'Rot 1, performance' }).click();
  await page.getByRole('combobox', { name: /^Against it/ }).click();
  await page.getByRole('option', { name: 'Gelb 2, performance' }).click();
  const against = page.getByRole('table', { name: 'Against Rot 1, performance' });
  await expect(against.getByRole('row').nth(1)).toHaveText(/^Gelb 2, performance.*dB, \d+ %/, {
    timeout: 30_000,
  });
  const heard = page.waitForResponse((response) => response.url().includes('/residual/'));
  await against.getByRole('button', { name: 'Hear what is left' }).click();
  const residual = await heard;
  expect(residual.headers()['content-type']).toBe('audio/wav');
  expect([200, 206]).toContain(residual.status());
});

/** Opens the part about packs. A click before the page has woken up is lost. */
async function openPack(page: Page, button: string): Promise<void> {
  const inside = page.getByRole('button', { name: button });
  await expect(async () => {
    if (!(await inside.isVisible())) await page.getByText('Give these clips away blind').click();
    await expect(inside).toBeVisible({ timeout: 2000 });
  }).toPass();
}

test('files of every kind become takes of chains, and go on to a blind pack', async ({ page }) => {
  test.setTimeout(540_000);
  await signIn(page);
  const id = await startWithChains(page, 'Files of every kind', ['Rot 1', 'Gelb 2']);
  await step(page, 'Takes').click();
  const input = page.locator('input[type=file]');

  // A zip with a folder, read by a pattern; a FLAC; a file with two channels; a backing track.
  await page.getByText('How file names are read').click();
  await page.getByLabel('Naming pattern').fill('{take} {chain}');
  await page.getByLabel('Naming pattern').fill('{take}{chain}');
  await expect(page.getByText('Between two fields stands something')).toBeVisible();
  await page.getByLabel('Naming pattern').fill('{take} {chain}');
  const zip = zipSync({
    'day 1/01 Rot 1.wav': wav24(music, 0.9, 0),
    'day 1/02 Gelb 2.wav': wav24(music, -0.35, 96),
    'day 1/notes.txt': Buffer.from('nothing to hear'),
  });
  await input.setInputFiles({
    name: 'day.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from(zip),
  });
  await expect(page.getByText('1 other file in this archive is no WAV or FLAC')).toBeVisible();
  await expect(page.getByRole('combobox', { name: 'Chain of 01 Rot 1.wav' })).toHaveText('Rot 1');
  await expect(page.getByRole('combobox', { name: 'Chain of 02 Gelb 2.wav' })).toHaveText('Gelb 2');
  await page.getByRole('button', { name: 'Put day.zip aside' }).click();
  const two = wavOf([music.map((x) => 0.5 * x), music.map((x) => -0.2 * x)]);
  await input.setInputFiles([
    file('both.wav', two),
    file('backing.wav', wavOf([tune(12, 0.05, 5)])),
    file('short.flac', readFileSync(path.join(__dirname, '../src/steps/test/noise.flac'))),
  ]);
  await expect(page.getByText('Decoded from FLAC.')).toBeVisible();
  await expect(page.getByText('backing track · ')).toBeVisible();
  await expect(page.getByText(/Polarity is the other way round/)).toBeVisible();

  // A remark that may stay, with its reason.
  await page.getByRole('button', { name: 'Accept for 02 Gelb 2.wav: polarity' }).click();
  await page.getByLabel('Why it may stay').fill('cable known');
  await page.getByRole('dialog').getByRole('button', { name: 'Accept' }).click();
  await expect(page.getByText('Accepted: cable known.')).toBeVisible();

  // Channels to chains; then several takes, one of them picked.
  await page.getByRole('button', { name: 'More about both.wav' }).click();
  await page.getByRole('menuitem', { name: 'Split its channels to chains' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Split' }).click();
  await expect(page.getByText('channel 2 of the file')).toBeVisible();
  await expect(
    page.getByRole('heading', { name: 'Four takes, at least one for each chain' }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'More about both.wav' }).first().click();
  await page.getByRole('menuitem', { name: 'Make clips of this take' }).click();
  await expect(page.getByText('clips are made of this one')).toBeVisible();

  // Dragging and choosing several.
  await drag(
    page,
    page.getByRole('button', { name: 'Drag short.flac to a chain' }),
    page.getByRole('group', { name: 'Takes by chain' }).getByText('Gelb 2'),
  );
  await expect(page.getByRole('combobox', { name: 'Chain of short.flac' })).toHaveText('Gelb 2');
  await page.getByRole('checkbox', { name: 'Choose short.flac' }).check();
  const bar = page.getByRole('group', { name: 'Chosen takes' });
  await bar.getByLabel('They hold').click();
  await page.getByRole('option', { name: 'silence in the room' }).click();
  await expect(page.getByText('silence in the room · ')).toBeVisible();
  await bar.getByRole('button', { name: 'Done' }).click();

  // Every context, matched and verified; the preview in the browser.
  await step(page, 'Match').click();
  await page.getByRole('button', { name: 'Match the clips' }).click();
  await expect(page.getByRole('heading', { name: 'Two clips, equally loud' })).toBeVisible();
  await page.getByText('In which contexts').click();
  for (const name of ['processed alike', 'tailored', 'in the mix', 'tone-matched']) {
    await page.getByRole('checkbox', { name }).check();
  }
  await page.getByRole('checkbox', { name: 'raw' }).uncheck();
  await page
    .getByRole('button', { name: /^Hear it on/ })
    .first()
    .click();
  await expect(page.getByRole('button', { name: 'with these settings' })).toBeVisible();
  await page.getByRole('button', { name: 'Match again' }).click();
  const made = () =>
    query<{ context: string; residual: number }>(
      `SELECT context, (facts->>'worstResidualLu')::float8 AS residual FROM clip_set
       WHERE comparison_id = $1 AND state = 'ready' ORDER BY context`,
      [id],
    );
  await expect.poll(async () => (await made()).length, { timeout: 60_000 }).toBe(5);
  expect((await made()).map(({ context }) => context)).toEqual([
    'alike',
    'mix',
    'raw',
    'tailored',
    'toned',
  ]);
  for (const { residual } of await made()) expect(residual).toBeLessThan(0.05);
  await page.reload();
  await page.getByRole('combobox', { name: 'Clips to look at' }).click();
  await expect(page.getByRole('option')).toHaveCount(5);
  await page.getByRole('option', { name: /^tone-matched/ }).click();
  await expect(page.getByText('Clips tone-matched.')).toBeVisible();
  await expect(page.getByText(/each within 0\.0[0-4]\d LU of the common loudness/)).toBeVisible();

  // The pack, read with nothing but general tools.
  await page.waitForURL(/clips=/);
  await openPack(page, 'Make a pack');
  await page.getByRole('button', { name: 'Make a pack' }).click();
  const [pack] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Download the pack' }).click(),
  ]);
  const files = unzipSync(readFileSync(await pack.path()));
  const manifest = JSON.parse(Buffer.from(files['manifest.json']!).toString()) as {
    seal: string;
    clips: { word: string; file: string; sha256: string }[];
  };
  for (const { file: name, sha256 } of manifest.clips) {
    expect(createHash('sha256').update(files[name]!).digest('hex')).toBe(sha256);
  }
  // Neither chain by name, in no file and in no file's name; three letters come by chance among samples.
  for (const [name, bytes] of Object.entries(files)) {
    const text = Buffer.from(bytes).toString('latin1');
    const told = name.endsWith('.wav') ? text.slice(0, text.indexOf('data')) : text;
    expect(name + told).not.toMatch(/Rot|Gelb/);
    expect(text).not.toContain('Gelb');
  }
  await page.getByRole('button', { name: 'Open the key' }).click();
  const [key] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('dialog').getByRole('button', { name: 'Open the key' }).click(),
  ]);
  const document = readFileSync(await key.path());
  expect(createHash('sha256').update(document).digest('hex')).toBe(manifest.seal);
  await expect(page.getByText(/key opened/)).toBeVisible();

  // The sheets that come back: faults first, then two imports, each a sitting of its own, read together.
  const [one = '', other = ''] = manifest.clips.map(({ word }) => word);
  const sheet = (name: string, ...listeners: string[]) =>
    file(
      name,
      Buffer.from(
        [
          'listener,trial,first,second,choice,remark',
          ...listeners.flatMap((who, i) => [
            `${who},1,${one},${other},${i % 3 === 0 ? other : one},`,
            `${who},2,${other},${one},${one.toLowerCase()},warmer`,
          ]),
        ].join('\r\n'),
      ),
    );
  await page.getByRole('button', { name: 'Import answers' }).click();
  const sheets = page.getByRole('dialog').locator('input[type=file]');
  await sheets.setInputFiles([
    sheet('good.csv', 'Ada', 'Ben'),
    file('bad.csv', Buffer.from(`listener,first,second,choice\nGro,${one},Moss,Moss\n`)),
  ]);
  await expect(page.getByText('no clip of this pack is called "Moss"')).toBeVisible();
  expect(await faults(page)).toEqual([]);
  const take = page.getByRole('dialog').getByRole('button', { name: 'Import', exact: true });
  await expect(take).toBeDisabled();
  await sheets.setInputFiles([sheet('first.csv', 'Ada', 'Ben', 'Cleo', 'Dag', 'Ellen', 'Finn')]);
  await expect(page.getByText('Six listeners, twelve answers')).toBeVisible();
  await page.getByLabel('Title of the sitting').fill('By post');
  await take.click();
  await expect(page.getByText('Sealed before the pack left')).toBeVisible();
  await expect(page.getByText(/whoever had it was not blind/)).toBeVisible();
  await expect(page.getByText(/Six listeners, 12 answers/)).toBeVisible();
  await page.getByRole('link', { name: 'Check it' }).click();
  const [keyAgain] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Key (JSON)' }).click(),
  ]);
  expect(readFileSync(await keyAgain.path()).equals(document)).toBe(true);

  await page.goto(`/comparisons/${id}/match`);
  await page.getByRole('combobox', { name: 'Clips to look at' }).click();
  await page.getByRole('option', { name: /^tone-matched/ }).click();
  await page.waitForURL(/clips=/);
  await expect(page.getByText('Clips tone-matched.')).toBeVisible();
  await openPack(page, 'Import answers');
  await page.getByRole('button', { name: 'Import answers' }).click();
  await page
    .getByRole('dialog')
    .locator('input[type=file]')
    .setInputFiles([sheet('late.csv', 'Ada', 'Gro', 'Hauk', 'Ida')]);
  await expect(page.getByText(/imported .* already, as “By post”/)).toBeVisible();
  await page.getByLabel('Title of the sitting').fill('Late by post');
  await page.getByRole('dialog').getByRole('button', { name: 'Import', exact: true }).click();
  await page.getByRole('link', { name: 'Read sittings together' }).click();
  await page.getByLabel('Why these').fill('One pack, in two letters');
  await page.getByRole('button', { name: 'Read together' }).click();
  await expect(page.getByRole('heading', { name: /^Two sittings, set against / })).toBeVisible();
  await expect(page.getByText('Mirela Voss chose these sittings')).toBeVisible();
  expect(await faults(page)).toEqual([]);
  // Ada wrote twice, and is one.
  await expect(page.getByText(/nine listeners, whoever took part/)).toBeVisible();

  // What another program found, by the names that clips have here.
  await page.goto(`/comparisons/${id}/sitting`);
  await page.getByRole('button', { name: 'Import results' }).click();
  const results = (name: string, chain: string) =>
    file(
      name,
      Buffer.from(
        [
          'listener,source,context,trial,task,chain,chain_b,first,response,replicate,correct',
          ...['Kai', 'Lou', 'Mia', 'Nils'].map(
            (who, i) => `${who},Lute,mix,1,pair,Rot 1,${chain},${i % 2 ? 'a' : 'b'},a,1,`,
          ),
        ].join('\n'),
      ),
    );
  const chosen = page.getByRole('dialog').locator('input[type=file]');
  await chosen.setInputFiles(results('odd.csv', 'Blau 3'));
  await expect(page.getByText('“Blau 3” is no chain of its clips')).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await expect(take).toBeDisabled();
  await chosen.setInputFiles(results('their panel.csv', 'Gelb 2'));
  await expect(page.getByText('Four listeners:')).toBeVisible();
  await take.click();
  await expect(page.getByText('From another program', { exact: true })).toBeVisible();
  await expect(page.getByText('Brought in from “their panel.csv”')).toBeVisible();
});

test('the simulated bench records repeats, and says where they prove nothing', async ({ page }) => {
  test.setTimeout(300_000);
  await signIn(page);
  await page.getByRole('link', { name: 'Clarinet overhead, can we afford loud?' }).click();
  await step(page, 'Takes').click();
  await page.getByRole('button', { name: 'Simulated bench' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Captured').click();
  await page.getByRole('option', { name: 'one after another' }).click();
  await dialog.getByLabel('Takes of each chain').fill('2');
  await dialog.getByRole('checkbox', { name: 'silence in the room' }).check();
  await dialog.getByRole('checkbox', { name: 'Esker 7, far › Pfad 4' }).uncheck();
  await dialog.getByRole('button', { name: 'Record' }).click();
  await expect(page.getByText('being checked')).toHaveCount(0, { timeout: 90_000 });
  await page.getByRole('tab', { name: /^Measured/ }).click();
  await expect(page.getByRole('table', { name: /^Takes against chains/ })).toBeVisible({
    timeout: 60_000,
  });
  await expect(
    page.getByText(/between its takes|clearly more than the takes of/).first(),
  ).toBeVisible();
  await expect(page.getByRole('table', { name: 'Numbers of the test programme' })).toContainText(
    'Kern 40',
  );
  await expect(page.getByText('simulated').first()).toBeVisible();

  // A match takes one performance of all, or a take of each.
  await step(page, 'Match').click();
  await page.getByText('Which take of each chain').click();
  const choices = page.getByRole('combobox').filter({ hasText: /^[12]: / });
  // All takes are checked by then.
  await expect(choices).toHaveCount(3);
  await page.getByRole('button', { name: 'All of performance 2' }).click();
  await expect(choices.filter({ hasText: /^2: / })).toHaveCount(3);
  await page.getByRole('button', { name: 'All of performance 1' }).click();
  await expect(choices.filter({ hasText: /^1: / })).toHaveCount(3);
});

test('files that come before any chain name the chains themselves', async ({ page }) => {
  await signIn(page);
  await startComparison(page, 'Files first', 'Harp', 'verse');
  await step(page, 'Takes').click();
  const file = (name: string, seed: number) => ({
    name,
    mimeType: 'audio/wav',
    buffer: wav24(tune(2, 0.01, seed), 0.4, 0),
  });
  await page
    .locator('input[type=file]')
    .setInputFiles([
      file('Alder_Linie_take1.wav', 1),
      file('Alder_Linie_take2.wav', 2),
      file('Birke_Linie_take1.wav', 3),
      file('Birke_Linie_room tone.wav', 4),
    ]);
  await expect(page.getByText('Four files without a chain')).toContainText('“Alder”, “Birke”');
  await expect(page.getByRole('heading', { name: 'Four files, no chain named yet' })).toBeVisible();
  await page.getByRole('button', { name: 'Make chains from these names' }).click();
  await expect(page.getByText('without a chain;')).toHaveCount(0);
  await expect(page.getByRole('combobox', { name: /Alder_Linie_take2/ })).toHaveText('Alder');
  await expect(page.getByRole('combobox', { name: /room tone/ })).toHaveText('Birke');
  await step(page, 'Chains').click();
  await expect(page.getByRole('heading', { name: 'Two chains to compare' })).toBeVisible();
});

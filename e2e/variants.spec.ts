import { expect, type Page, test } from '@playwright/test';
import { faults, importPairs, query, signIn, startComparison, step } from './bank';
import { tune, wav24 } from './sound';

/** A comparison of two chains that recorded one tune. */
async function comparisonOfTwo(page: Page): Promise<string> {
  const id = await startComparison(page, 'With and without', 'Harp', 'verse');
  const headers = { origin: new URL(page.url()).origin };
  for (const name of ['Alder', 'Birke']) {
    const data = { name, items: '', priceCents: null };
    const made = await page.request.post(`/api/comparisons/${id}/chains`, { data, headers });
    expect(made.ok()).toBe(true);
  }
  await step(page, 'Takes').click();
  const music = tune(8, 0.002, 5);
  const file = (name: string, buffer: Buffer) => ({ name, mimeType: 'audio/wav', buffer });
  await page
    .locator('input[type=file]')
    .setInputFiles([
      file('Alder.wav', wav24(music, 0.5, 0)),
      file('Birke.wav', wav24(music, -0.3, 90)),
    ]);
  await expect(page.getByRole('combobox', { name: /Birke/ })).toHaveText('Birke');
  await expect(page.getByRole('combobox', { name: /Alder/ })).toHaveText('Alder');
  return id;
}

test('a chain is heard processed and louder beside itself, in one set', async ({ page }) => {
  test.setTimeout(300_000);
  await signIn(page);
  const id = await comparisonOfTwo(page);
  await step(page, 'Match').click();
  await page.getByText('Variants: the same chain processed').click();
  const add = page.getByRole('button', { name: 'Add a variant' });
  await add.click();
  const dialog = page.getByRole('dialog', { name: 'Add a variant' });
  const addStage = async (name: string) => {
    await dialog.getByRole('combobox', { name: 'Add a stage' }).click();
    await page.getByRole('option', { name, exact: true }).click();
  };
  await addStage('High-pass');
  await addStage('Level, on purpose');
  await expect(dialog.getByText('This one will not be as loud as the others')).toBeVisible();
  // Out of its range nothing is kept, and the field says what is.
  const corner = dialog.getByLabel('corner, Hz');
  await corner.fill('5');
  await corner.blur();
  await expect(dialog.getByText('A number from 10 to 2000.')).toBeVisible();
  await corner.fill('250');
  await corner.blur();
  const name = dialog.getByLabel('Name');
  await expect(name).toHaveAttribute('placeholder', 'Alder, high-pass 250 Hz, +0.5 dB on purpose');
  await dialog.getByRole('button', { name: 'Stage 2 earlier' }).click();
  await expect(name).toHaveAttribute('placeholder', 'Alder, +0.5 dB on purpose, high-pass 250 Hz');
  expect(await faults(page)).toEqual([]);
  await name.fill('Alder, thin and louder');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog).toBeHidden();
  const variants = page.getByRole('list', { name: 'Variants' });
  await expect(variants).toContainText('of Alder: +0.5 dB on purpose, high-pass 250 Hz');

  await page.getByRole('button', { name: 'Match the clips' }).click();
  await expect(
    page.getByRole('heading', { name: 'Three clips, equally loud but for one on purpose' }),
  ).toBeVisible();
  const clips = page.getByRole('table', { name: 'Matched clips' });
  const row = (text: string) => clips.getByRole('row').filter({ hasText: text });
  const loudness = async (text: string) =>
    Number((await row(text).getByRole('cell').nth(5).innerText()).replace('−', '-'));
  await expect(row('thin and louder')).toContainText('through +0.5 dB on purpose, high-pass');
  expect((await loudness('thin and louder')) - (await loudness('Birke'))).toBeCloseTo(0.5, 1);

  // A note is kept of the clip that sounds, by whom and when, and can be taken away by its author.
  await page.getByRole('button', { name: 'Birke', exact: true }).click();
  const note = page.getByRole('textbox', { name: 'Note on Birke' });
  await note.fill('a 2 dB bump, I think');
  await page.getByRole('button', { name: 'Save the note' }).click();
  const notes = page.getByRole('list', { name: 'Notes' });
  await expect(notes.getByRole('listitem')).toContainText('Birke: a 2 dB bump, I think');
  await expect(note).toHaveValue('');
  await page.getByRole('checkbox', { name: 'on all' }).check();
  await page.getByRole('textbox', { name: 'Note on all of them' }).fill('boomy');
  await page.getByRole('button', { name: 'Save the note' }).click();
  await expect(notes.getByRole('listitem')).toHaveCount(2);
  await page.getByRole('button', { name: /^Delete the note on all of them/ }).click();
  await expect(notes.getByRole('listitem')).toHaveCount(1);

  // With the names put away, neither the clips nor the notes say which is which; the note does, afterwards.
  await page.getByRole('switch', { name: 'Hide the names' }).click();
  await expect(page.getByRole('button', { name: 'clip 3', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Birke', exact: true })).toHaveCount(0);
  await expect(notes).toHaveCount(0);
  await page.getByRole('button', { name: 'clip 2', exact: true }).click();
  await page.getByRole('textbox', { name: 'Note on clip 2' }).fill('thin');
  await page.getByRole('button', { name: 'Save the note' }).click();
  await expect(page.getByRole('textbox', { name: 'Note on clip 2' })).toHaveValue('');
  await page.getByRole('switch', { name: 'Hide the names' }).click();
  await expect(notes.getByRole('listitem').first()).toContainText(/(Alder|Birke).*: thin/);
  await expect(notes.getByRole('listitem').first()).toContainText('names hidden');
  await notes.getByRole('button', { name: /^Delete the note on .*: thin$/ }).click();

  // One taken from another: how much is left, and the sound of it.
  await page.getByRole('button', { name: /^Subtract / }).click();
  await expect(page.getByText(/at its best delay and gain: −[\d.]+ dB, \d+ %/)).toBeVisible({
    timeout: 30_000,
  });
  const left = page.waitForResponse((response) => response.url().includes('/residual/'));
  await page.getByRole('button', { name: 'Hear what is left' }).click();
  expect([200, 206]).toContain((await left).status());
  await page.getByRole('button', { name: 'Stop' }).click();

  // Heard before it is matched, on the raw clip of its chain.
  await page.getByRole('button', { name: 'Edit Alder, thin and louder' }).click();
  const change = page.getByRole('dialog', { name: 'Change the variant' });
  await change.getByRole('button', { name: 'Hear it on Alder' }).click();
  await expect(change.getByText('with these settings')).toBeVisible();
  await change.getByLabel('corner, Hz').fill('120');
  await change.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('a variant or the chains that take part changed')).toBeVisible();

  // Pressed once and again, a heading sorts one way and the other; a third time as it came.
  const before = async () =>
    (await clips.getByRole('row').locator('td:nth-child(4)').allInnerTexts()).map((text) =>
      Number(text.replace('−', '-')),
    );
  const asMade = await before();
  const rising = [...asMade].sort((a, b) => a - b);
  const heading = clips.getByRole('button', { name: 'Before, LUFS' });
  for (const order of [rising, [...rising].reverse(), asMade]) {
    await heading.click();
    await expect.poll(before).toEqual(order);
  }

  // What does not fit is left out with one click, and the set says so.
  await clips.getByRole('button', { name: 'Leave out Alder, thin and louder' }).click();
  await expect(page.getByRole('heading', { name: 'Two clips, equally loud' })).toBeVisible();
  await expect(page.getByText('Left out: Alder, thin and louder.')).toBeVisible();

  // It is no chain to record or to price anew.
  await step(page, 'Chains').click();
  const chain = page.getByRole('row').filter({ hasText: 'thin and louder' });
  await expect(chain).toContainText('variant of Alder: +0.5 dB on purpose, high-pass 120 Hz');
  await page.getByRole('button', { name: 'Remove Alder', exact: true }).click();
  await expect(page.getByText('This chain has clips in a match')).toBeVisible();
  await step(page, 'Takes').click();
  await page.getByRole('combobox', { name: /Birke/ }).click();
  await expect(page.getByRole('option', { name: 'Alder', exact: true })).toBeVisible();
  await expect(page.getByRole('option', { name: /thin and louder/ })).toHaveCount(0);
  await page.keyboard.press('Escape');

  // What is no processing is refused whole.
  const headers = { origin: new URL(page.url()).origin };
  const chains = `/api/comparisons/${id}/chains`;
  const hostile = async (stages: unknown) => {
    const shape = { kind: 'variant', ofChainId: crypto.randomUUID(), stages };
    const data = { name: 'no', items: '', priceCents: null, shape };
    const sent = await page.request.post(chains, { data, headers });
    return [sent.status(), await sent.text()] as const;
  };
  for (const stages of [
    [{ kind: 'saturation', driveDb: 400, curve: 'symmetric' }],
    [{ kind: 'plugin', path: '/etc/passwd' }],
    Array.from({ length: 9 }, () => ({ kind: 'high-pass', hz: 80 })),
  ]) {
    const [status, text] = await hostile(stages);
    expect(status).toBe(400);
    expect(text).not.toContain('Error');
  }
  expect((await hostile([]))[0]).toBe(422);
});

test('whether two chains differ by EQ alone is asked in one order', async ({ page }) => {
  test.setTimeout(240_000);
  await signIn(page);
  await comparisonOfTwo(page);
  await step(page, 'Match').click();
  await page.getByRole('button', { name: 'Match the clips' }).click();
  await expect(page.getByRole('heading', { name: 'Two clips, equally loud' })).toBeVisible({
    timeout: 60_000,
  });
  await page.getByRole('button', { name: 'Is it only EQ?' }).click();
  await expect(page.getByRole('heading', { name: 'Three clips, equally loud' })).toBeVisible({
    timeout: 60_000,
  });
  const clips = page.getByRole('table', { name: 'Matched clips' });
  await expect(clips.getByRole('row').filter({ hasText: 'Birke, tone of Alder' })).toHaveCount(1);
  // Of a variant it is not asked.
  await page.getByRole('combobox', { name: 'Spectrum of' }).click();
  await page.getByRole('option', { name: 'Birke, tone of Alder' }).click();
  await expect(page.getByRole('button', { name: 'Is it only EQ?' })).toHaveCount(0);
});

test('a step of the test programme is heard chain against chain, at one gain', async ({ page }) => {
  test.setTimeout(300_000);
  await signIn(page);
  const id = await comparisonOfTwo(page);
  const sound = tune(6, 0.05, 8);
  const file = (name: string, gain: number) => ({
    name,
    mimeType: 'audio/wav',
    buffer: wav24(sound, gain, 0),
  });
  await page
    .locator('input[type=file]')
    .setInputFiles([file('Alder_off-axis_90.wav', 0.2), file('Birke_off-axis_90.wav', 0.4)]);
  await expect(page.getByRole('combobox', { name: /Birke_off/ })).toHaveText('Birke');
  await expect(page.getByRole('combobox', { name: /Alder_off/ })).toHaveText('Alder');

  await step(page, 'Match').click();
  await page.getByRole('button', { name: 'Another passage' }).click();
  await page.getByRole('combobox', { name: 'Cut from' }).click();
  await page.getByRole('option', { name: 'test sound off axis, 90°, 2 chains' }).click();
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByLabel('Passage', { exact: true })).toContainText('off axis, 90°');
  await page.getByRole('combobox', { name: 'Made equal by' }).click();
  await page.getByRole('option', { name: /same gain/ }).click();
  await expect(page.getByText('Nothing says at which gain Alder, Birke were')).toBeVisible();
  await page.getByRole('button', { name: 'Match the clips' }).click();
  await expect(page.getByText('Write it on the run sheet or into the chain')).toBeVisible();

  // As the run sheet would have it after the recording.
  for (const [name, gain] of [
    ['Alder', 30],
    ['Birke', 40],
  ] as const) {
    await query(
      `INSERT INTO run_line (comparison_id, day, position, chain_id, source_id, programme, detail,
         take_number, minutes, done, gain_db)
       SELECT $1, 1, $3::int, chain.id, source.id, 'off-axis', '90', 1, 1, true, $3::int FROM chain
       JOIN source USING (comparison_id) WHERE comparison_id = $1 AND chain.name = $2`,
      [id, name, gain],
    );
  }
  await page.reload();
  await page.getByRole('combobox', { name: 'Made equal by' }).click();
  await page.getByRole('option', { name: /same gain/ }).click();
  await expect(page.getByText('Recorded at 30 dB (Alder), 40 dB (Birke).')).toBeVisible();
  await page.getByRole('button', { name: 'Match the clips' }).click();
  await expect(page.getByRole('heading', { name: 'Two clips at the same gain' })).toBeVisible();
  const clips = page.getByRole('table', { name: 'Matched clips' });
  const loudness = async (name: string) => {
    const cells = clips.getByRole('row').filter({ hasText: name }).getByRole('cell');
    return Number((await cells.nth(5).innerText()).replace('−', '-'));
  };
  // Twice as large in the file, but at 10 dB more: 4 dB quieter side by side.
  expect((await loudness('Alder')) - (await loudness('Birke'))).toBeCloseTo(10 - 6.02, 1);
  expect(await loudness('Alder')).toBeLessThanOrEqual(-19.9);
  await step(page, 'Sitting').click();
  await expect(page.getByText('off axis, 90°, at the same gain').first()).toBeVisible();

  // Both passages in one order, once both are marked.
  await step(page, 'Match').click();
  await expect(page.getByLabel('Passage', { exact: true })).toContainText('verse');
  await page.getByRole('button', { name: 'Match the clips' }).click();
  await expect(page.getByRole('heading', { name: 'Two clips, equally loud' })).toBeVisible();
  await page.getByRole('button', { name: 'Match all 2 passages' }).click();
  const made = () =>
    query<{ n: number }>(
      `SELECT count(*)::int AS n FROM clip_set
       WHERE comparison_id = $1 AND method = 'loudness' AND state = 'ready'`,
      [id],
    );
  await expect.poll(async () => (await made())[0]?.n, { timeout: 60_000 }).toBe(3);
});

test('which part of a lead is EQ is told where a chain was heard with the tone of another', async ({
  page,
}) => {
  test.setTimeout(300_000);
  await signIn(page);
  const id = await comparisonOfTwo(page);
  await step(page, 'Match').click();
  await page.getByText('Variants: the same chain processed').click();
  await page.getByRole('button', { name: 'Add a variant' }).click();
  const dialog = page.getByRole('dialog', { name: 'Add a variant' });
  await dialog.getByRole('combobox', { name: 'Add a stage' }).click();
  await page.getByRole('option', { name: 'Tone match', exact: true }).click();
  await dialog.getByRole('combobox', { name: 'tone of' }).click();
  await page.getByRole('option', { name: 'Birke', exact: true }).click();
  await dialog.getByLabel('Name').fill('Alder like Birke');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog).toBeHidden();
  await page.getByRole('button', { name: 'Match the clips' }).click();
  await expect(page.getByRole('heading', { name: 'Three clips, equally loud' })).toBeVisible();

  // Birke is preferred by 12 of 15 to Alder, by 9 of 15 to Alder with its tone.
  await importPairs(page, id, { source: 'Harp', context: 'raw' }, 15, [
    ['Birke', 'Alder', 12],
    ['Birke', 'Alder like Birke', 9],
    ['Alder like Birke', 'Alder', 11],
  ]);

  await step(page, 'Decision').click();
  await expect(page.getByText('How much of it is EQ')).toBeVisible({ timeout: 60_000 });
  const told = page.getByText(/^Birke leads Alder; once Alder had the tone of Birke, /);
  await expect(told).toContainText(/ of that lead was left/);
  expect(await faults(page)).toEqual([]);
});

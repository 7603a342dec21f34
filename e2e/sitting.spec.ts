import AxeBuilder from '@axe-core/playwright';
import { expect, type Page, test } from '@playwright/test';
import { answerTrial, beginPart, query, settleIn, signIn, step } from './bank';

interface Part {
  task: string;
  name: string;
  clips: number;
  trials: number;
}

/** Every task, the one whose practice is walked by all tests first. */
const PARTS: Part[] = [
  { task: 'pair', name: 'Which one', clips: 2, trials: 1 },
  { task: 'triangle', name: 'Odd one out', clips: 3, trials: 1 },
  { task: 'two-interval', name: 'Which has more', clips: 2, trials: 1 },
  { task: 'memory', name: 'From memory', clips: 1, trials: 1 },
  { task: 'reference', name: 'Against the reference', clips: 2, trials: 1 },
  { task: 'line', name: 'On one line', clips: 6, trials: 1 },
  { task: 'duo-trio', name: 'Which twin', clips: 3, trials: 1 },
  { task: 'words', name: 'In words', clips: 1, trials: 1 },
];

/** Plans and opens a sitting through the bank's own routes. */
async function openSitting(
  page: Page,
  parts: Part[],
  change: object,
): Promise<{ id: string; token: string; conductor: string | null; code: string }> {
  const [{ comparison, set }] = await query<{ comparison: string; set: string }>(
    `SELECT clip_set.comparison_id AS comparison, clip_set.id AS set FROM clip_set
     JOIN comparison ON comparison.id = clip_set.comparison_id
     WHERE clip_set.state = 'ready' AND simulated ORDER BY clip_set.created_at DESC LIMIT 1`,
  );
  const chains = await query<{ id: string }>(
    'SELECT chain_id AS id FROM clip WHERE clip_set_id = $1 ORDER BY chain_id',
    [set],
  );
  const plan = {
    title: 'All there is to ask',
    seats: 6,
    codeMode: 'fresh',
    resetSound: 'none',
    room: 'own',
    parts: parts.map(({ task, trials }) => ({
      task,
      clipSetId: set,
      prompt: `Asked as ${task}?`,
      tiesAllowed: true,
      trials,
      pair: ['two-interval', 'memory'].includes(task) ? [chains[0].id, chains[1].id] : null,
      controls: { self: false, louder: false, repeats: 0 },
      words: task === 'words' ? ['warm', 'thin'] : [],
    })),
    ...change,
  };
  const headers = { origin: new URL(page.url()).origin };
  const base = `/api/comparisons/${comparison}/sittings`;
  const kept = await page.request.put(base, { data: plan, headers });
  const { id } = (await kept.json()) as { id: string };
  const opened = await page.request.post(`${base}/${id}/open`, { headers });
  expect(opened.ok()).toBe(true);
  const [row] = await query<{ token: string; conductor: string | null; code: string }>(
    'SELECT token, conductor_token AS conductor, code FROM sitting WHERE id = $1',
    [id],
  );
  return { id, ...row };
}

async function faults(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).analyze();
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 120)).join(' | ')}`);
}

for (const [device, size] of [
  ['a desktop', { width: 1280, height: 800 }],
  ['a phone', { width: 390, height: 844 }],
] as const) {
  test(`every task is walked to its end on ${device}, with the network cut in between`, async ({
    page,
    browser,
  }) => {
    test.setTimeout(240_000);
    await signIn(page);
    const { id, token } = await openSitting(page, PARTS, {});
    const context = await browser.newContext({ viewport: size });
    const listener = await context.newPage();
    await settleIn(listener, `/listen/${token}`, `Walker on ${device}`);
    for (const [i, part] of PARTS.entries()) {
      if (i > 0) await beginPart(listener, i + 1, part.name);
      await expect(listener.getByRole('button', { name: /^(Done|I know)/ })).toBeVisible();
      expect(await faults(listener), part.task).toEqual([]);
      if (part.task === 'memory') await answerTrial(listener, 'learning', 2);
      if (part.task === 'reference') {
        await context.setOffline(true);
        await answerTrial(listener, part.task, part.clips);
        await expect(listener.getByText('Your answer is kept here')).toBeVisible();
        await context.setOffline(false);
      } else {
        await answerTrial(listener, part.task, part.clips);
      }
    }
    await expect(listener.getByRole('heading', { name: /^Thank you/ })).toBeVisible();
    const [{ count }] = await query<{ count: number }>(
      'SELECT count(*)::int AS count FROM answer WHERE sitting_id = $1',
      [id],
    );
    expect(count).toBe(PARTS.length + 1);
    await context.close();
  });
}

test('in the room: the conductor plays, phones answer, and a reload loses no place', async ({
  page,
  browser,
}) => {
  test.setTimeout(180_000);
  await signIn(page);
  const parts = PARTS.filter(({ task }) => ['pair', 'line'].includes(task));
  const { id, conductor, code } = await openSitting(page, parts, { room: 'together' });
  const context = await browser.newContext();
  const stage = await context.newPage();
  await stage.goto(`/conduct/${conductor}`);
  await expect(stage.getByText(code)).toBeVisible();
  expect(await faults(stage)).toEqual([]);

  const phones: Page[] = [];
  for (const alias of ['Room Rosa', 'Room Rolf']) {
    const phone = await (
      await browser.newContext({ viewport: { width: 390, height: 844 } })
    ).newPage();
    await phone.goto('/listen');
    await phone.getByLabel('Code').fill(code.toLowerCase());
    await phone.getByRole('button', { name: 'Join' }).click();
    await phone.getByLabel('A name for you').fill(alias);
    await phone.getByRole('checkbox').check();
    await phone.getByRole('button', { name: 'Begin' }).click();
    await expect(phone.getByRole('heading', { name: `Welcome, ${alias}` })).toBeVisible();
    phones.push(phone);
  }
  await expect(stage.getByText('2 listeners have joined.')).toBeVisible();
  await stage.getByRole('button', { name: 'Begin' }).click();

  const [rosa, rolf] = phones;
  await expect(rosa.getByRole('heading', { name: 'Asked as pair?' })).toBeVisible();
  await expect(rosa.getByText('answering opens when all were played')).toBeVisible();
  await stage.getByRole('button', { name: 'Play each in turn' }).click();
  await expect(rosa.getByText('Now choose.')).toBeVisible({ timeout: 40_000 });
  // The conductor's page comes back to its place; so does a phone that fell asleep.
  await stage.reload();
  await rolf.reload();
  await expect(stage.getByText('0 of 2 have answered; 2 are still thinking.')).toBeVisible();
  for (const phone of phones) {
    expect(await faults(phone)).toEqual([]);
    await phone
      .getByRole('button', { name: /suits better$/ })
      .first()
      .click();
    await phone.getByRole('button', { name: 'Done with this trial' }).click();
    await expect(phone.getByRole('heading', { name: /^Kept/ })).toBeVisible();
  }
  await expect(stage.getByText('All have answered.')).toBeVisible();
  await stage.getByRole('button', { name: 'Next trial' }).click();

  await expect(rosa.getByRole('heading', { name: 'Asked as line?' })).toBeVisible();
  await stage.getByRole('button', { name: 'Play each in turn' }).click();
  await expect(rosa.getByText('Now place each slip on the line.')).toBeVisible({
    timeout: 90_000,
  });
  const words = await rosa.getByRole('slider').all();
  const names = await Promise.all(words.map((slip) => slip.getAttribute('aria-label')));
  expect(names.length).toBe(6);
  for (const name of names) {
    await rosa.getByRole('slider', { name: name ?? '', exact: true }).focus();
    await rosa.keyboard.press('ArrowRight');
  }
  await rosa.getByRole('button', { name: 'Done with this trial' }).click();
  await expect(stage.getByText('1 of 2 have answered; 1 is still thinking.')).toBeVisible();
  await stage.getByRole('button', { name: 'End the sitting' }).click();
  await expect(rosa.getByRole('heading', { name: /^Thank you/ })).toBeVisible();
  await expect(rolf.getByRole('heading', { name: /^Thank you/ })).toBeVisible();
  const rows = await query<{ alias: string; position: number }>(
    `SELECT alias, position FROM answer JOIN listener ON listener.id = listener_id
     WHERE answer.sitting_id = $1 ORDER BY alias, position`,
    [id],
  );
  expect(rows).toEqual([
    { alias: 'Room Rolf', position: 1 },
    { alias: 'Room Rosa', position: 1 },
    { alias: 'Room Rosa', position: 2 },
  ]);
});

test('a plan is tried on simulated panels, rehearsed, and sealed; breaking the seal is no secret', async ({
  page,
  context,
}) => {
  test.setTimeout(120_000);
  await signIn(page);
  await page.getByRole('link', { name: 'Contralto, which chain?' }).click();
  await step(page, 'Sitting').click();
  await page.getByRole('button', { name: 'Plan another like this' }).first().click();
  await page.getByLabel('Add a part').click();
  await page.getByRole('option', { name: 'From memory' }).click();
  await page.getByRole('button', { name: /Try on 400 simulated panels/ }).click();
  const chance = page.getByRole('table', { name: 'Chance to find a difference' });
  await expect(chance.getByText(/^\d+ %$/).first()).toBeVisible({ timeout: 60_000 });

  await page.getByRole('button', { name: 'Rehearse' }).click();
  const [rehearsal] = await Promise.all([
    context.waitForEvent('page'),
    page.getByRole('link', { name: 'walk through it as a listener' }).click(),
  ]);
  await expect(rehearsal.getByText('A rehearsal: walk through it')).toBeVisible();
  await rehearsal.close();
  const before = await query('SELECT id FROM sitting WHERE NOT rehearsal');

  const title = `Sealed ${before.length}`;
  await page.getByLabel('What listeners are told they hear').fill(title);
  await page.getByRole('button', { name: 'Seal and open' }).click();
  await expect(page.getByText(`${title}.`).first()).toBeVisible();
  await page.getByRole('button', { name: 'Break the seal' }).first().click();
  await page.getByLabel('Why it must be').fill('A loudspeaker broke in the middle.');
  const breaking = page.getByRole('button', { name: 'Break it' });
  await expect(breaking).toBeDisabled();
  await page.getByLabel(/^Type the title/).fill(title);
  await breaking.click();
  await expect(page.getByText(/The seal was broken .*A loudspeaker broke/)).toBeVisible();
});

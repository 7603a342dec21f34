import AxeBuilder from '@axe-core/playwright';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, type Locator, type Page } from '@playwright/test';
import pg from 'pg';
import { BANK } from './place';
import { one } from '../src/platform/one';

interface Demo {
  name: string;
  password: string;
  listenerToken: string;
}

/** What the demo printed: engineer, password, link of the open sitting. */
export function demo(): Demo {
  return JSON.parse(readFileSync(path.join(BANK, 'demo.json'), 'utf8')) as Demo;
}

function environmentOf(pid: number): Record<string, string> {
  const entries = readFileSync(`/proc/${pid}/environ`, 'utf8').split('\0');
  return Object.fromEntries(
    entries.map((entry): [string, string] => {
      const [name, value] = entry.split(/=(.*)/s) as [string, string];
      return [name, value ?? ''];
    }),
  );
}

/** Processes that the running supervisor started, by what their command line holds. */
export function childPid(part: string): number | null {
  const run = readFileSync(path.join(BANK, 'run.json'), 'utf8');
  return childOf((JSON.parse(run) as { pid: number }).pid, part);
}

/** A process that another started, by what its command line holds. */
export function childOf(pid: number, part: string): number | null {
  for (const entry of readdirSync('/proc')) {
    if (!/^\d+$/.test(entry)) continue;
    try {
      const parent = Number(
        readFileSync(`/proc/${entry}/stat`, 'utf8').split(') ')[1]!.split(' ')[1],
      );
      const command = readFileSync(`/proc/${entry}/cmdline`, 'utf8');
      if (parent === pid && command.includes(part)) return Number(entry);
    } catch {
      // It ended while we looked.
    }
  }
  return null;
}

/** The running bank's database, for looking behind the screens. */
export async function query<R>(text: string, values: unknown[] = []): Promise<R[]> {
  const pid = childPid('worker.mjs');
  if (pid === null) throw new Error('no worker runs');
  const client = new pg.Client({ connectionString: environmentOf(pid).DATABASE_URL });
  await client.connect();
  try {
    return (await client.query(text, values)).rows as R[];
  } finally {
    await client.end();
  }
}

/** The demo's whole sitting; its pilot, and those that other tests close beside it, are called otherwise or come later. */
export async function wholeSitting(): Promise<{ comparison: string; id: string; seal: string }> {
  return one(
    query<{ comparison: string; id: string; seal: string }>(
      `SELECT comparison_id AS comparison, id, seal FROM sitting
       WHERE state = 'closed' AND simulated AND title = 'Contralto, quiet verse'
       ORDER BY closed_at LIMIT 1`,
    ),
  );
}

export async function signIn(page: Page): Promise<void> {
  const { name, password } = demo();
  await page.goto('/sign-in');
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(
    page.getByRole('link', { name: 'Contralto, which chain?', exact: true }),
  ).toBeVisible();
}

const WCAG = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];

/** What an automatic check of accessibility finds wrong with a page. */
export async function faults(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page })
    .withTags([...WCAG, 'best-practice'])
    .analyze();
  const grave = violations.filter(
    ({ tags, impact }) =>
      tags.some((tag) => WCAG.includes(tag)) || impact === 'serious' || impact === 'critical',
  );
  return grave.map(
    ({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 120)).join(' | ')}`,
  );
}

/** Opens a step of the comparison that the page shows. */
export function step(page: Page, name: string): Locator {
  return page
    .getByRole('navigation', { name: 'Steps' })
    .getByRole('link', { name: new RegExp(`^${name}`) });
}

/** Starts a comparison of one's own. @returns its id */
export async function startComparison(
  page: Page,
  title: string,
  source: string,
  passage: string,
): Promise<string> {
  await page.goto('/comparisons/new');
  await page.getByLabel('Title').fill(title);
  await page.getByLabel('Who or what is heard').fill(source);
  await page.getByLabel('Passage').fill(passage);
  await page.getByRole('button', { name: 'Start' }).click();
  await page.waitForURL(/comparisons\/[0-9a-f-]{36}/);
  return /comparisons\/([0-9a-f-]{36})/.exec(page.url())?.[1] ?? '';
}

/** Starts a comparison of one's own with chains under their names. @returns its id */
export async function startWithChains(
  page: Page,
  title: string,
  chains: string[],
): Promise<string> {
  await startComparison(page, title, 'Lute', 'opening');
  for (const name of chains) {
    await page.getByRole('button', { name: 'Add a chain' }).click();
    await page.getByRole('dialog').getByLabel('Name').fill(name);
    await page.getByRole('dialog').getByRole('button', { name: 'Add', exact: true }).click();
    await expect(page.getByRole('cell', { name, exact: true })).toBeVisible();
  }
  return /comparisons\/([0-9a-f-]+)/.exec(page.url())?.[1] ?? '';
}

/** Answers as another program writes them, one listener after another: how often each of `rows` was preferred to the other. */
export async function importPairs(
  page: Page,
  comparisonId: string,
  place: { source: string; context: string },
  listeners: number,
  rows: readonly (readonly [chain: string, other: string, times: number])[],
): Promise<void> {
  const answers = Array.from({ length: listeners }, (_, who) =>
    rows.map(([chain, other, times], i) =>
      [
        `L${who}`,
        place.source,
        place.context,
        i + 1,
        'pair',
        chain,
        other,
        who % 2 ? 'a' : 'b',
        (who + 5 * i) % listeners < times ? 'a' : 'b',
        1,
        '',
      ].join(','),
    ),
  );
  const head = 'listener,source,context,trial,task,chain,chain_b,first,response,replicate,correct';
  await page.goto(`/comparisons/${comparisonId}/sitting`);
  await page.getByRole('button', { name: 'Import results' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.locator('input[type=file]').setInputFiles({
    name: 'panel.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from([head, ...answers.flat()].join('\n')),
  });
  const take = dialog.getByRole('button', { name: 'Import', exact: true });
  await expect(take).toBeEnabled();
  await take.click();
  await expect(page.getByText('From another program', { exact: true })).toBeVisible();
}

/** Joins a sitting, sets the level and does the practice trial. */
export async function settleIn(page: Page, link: string, alias: string): Promise<void> {
  await page.goto(link);
  await page.getByLabel('A name for you').fill(alias);
  await page.getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Begin' }).click();
  await page.getByRole('button', { name: 'Play' }).click();
  await page.getByRole('button', { name: 'The level is comfortable' }).click();
  await hearBoth(page);
  await page.getByRole('button', { name: 'Spool suits better' }).click();
  const begin = page.getByRole('button', { name: 'Begin the sitting' });
  await begin.click();
  // Until then the recordings on the page are still those of the practice.
  await expect(begin).toBeHidden();
}

/** Takes a seat in the room whose joining page the phone opens. */
export async function joinRoom(phone: Page, alias: string): Promise<void> {
  await phone.getByLabel('A name for you').fill(alias);
  await phone.getByRole('checkbox').check();
  await phone.getByRole('button', { name: 'Begin' }).click();
  await expect(phone.getByRole('heading', { name: `Welcome, ${alias}` })).toBeVisible();
}

/** Sets the level of a room at its conductor's page. */
export async function setRoomLevel(stage: Page): Promise<void> {
  await stage.getByRole('button', { name: 'Set the level' }).click();
  await expect(stage.getByText('Play it first.')).toBeVisible();
  await stage.getByRole('button', { name: 'Play' }).click();
  await expect(stage.getByText('Play it first.')).toBeHidden();
}

/** Hears both recordings of the pair for the least time. */
export async function hearBoth(page: Page): Promise<void> {
  const slips = page.getByRole('button', { name: /^Hear / });
  await slips.first().click();
  await expect(slips.first()).toContainText('sounding');
  // What is asked for still is the other one alone.
  await expect(page.getByText(/^Hear \S+ first\.$/)).toBeVisible();
  await slips.nth(1).click();
  await expect(page.getByText('Now choose.')).toBeVisible();
}

/** Answers the pair that is shown. */
export async function answerPair(page: Page, position: number, which: 'first' | 'second' | 'tie') {
  await expect(page.getByText(`Pair ${position} of`)).toBeVisible();
  await hearBoth(page);
  const choose =
    which === 'tie'
      ? page.getByRole('button', { name: 'No preference' })
      : page.getByRole('button', { name: /suits better$/ })[which === 'first' ? 'first' : 'last']();
  await choose.click();
  await page.getByRole('button', { name: 'Done with this pair' }).click();
}

/** Lets each clip sound by its key until it counts as heard. */
export async function hearByKeys(page: Page, clips: number): Promise<void> {
  for (let i = 1; i <= clips; i++) {
    const heard = page.locator('[data-heard]');
    const before = await heard.count();
    await page.keyboard.press(String(i));
    await expect(heard).toHaveCount(before + 1);
  }
}

/** Opens the next part, and says which it is. */
export async function beginPart(page: Page, number: number, name: string): Promise<void> {
  await expect(
    page.getByRole('heading', { name: new RegExp(`^Part ${number} of .*${name}`) }),
  ).toBeVisible();
  await page.getByRole('button', { name: `Begin part ${number}` }).click();
}

/** Answers the trial of the task that is shown, whatever it asks, and confirms. */
export async function answerTrial(page: Page, task: string, clips: number): Promise<void> {
  const done = page.getByRole('button', { name: /^(Done with this|I know them)/ });
  await expect(done).toBeVisible();
  await hearByKeys(page, clips);
  switch (task) {
    case 'pair':
    case 'two-interval':
    case 'duo-trio':
    case 'triangle':
    case 'memory':
      await page
        .getByRole('button', { name: /(suits better|^It is|is the twin|is the odd one|^This is)/ })
        .first()
        .click();
      break;
    case 'line':
    case 'likeness':
    case 'reference': {
      // A slip that is placed moves from the tray to the line, so each is named first.
      const slips = await page.getByRole('slider', { name: /^[A-Z][a-z]+$/ }).all();
      const names = await Promise.all(slips.map((slip) => slip.getAttribute('aria-label')));
      for (const [i, name] of names.entries()) {
        const slip = page.getByRole('slider', { name: name ?? '', exact: true });
        await slip.focus();
        await page.keyboard.press('ArrowRight');
        await expect(slip).toBeFocused();
        for (let step = 0; step < i; step++) await page.keyboard.press('PageUp');
      }
      break;
    }
    case 'words':
      await page.getByRole('checkbox', { name: 'warm', exact: true }).check();
      break;
  }
  await done.click();
}

export interface Part {
  task: string;
  name: string;
  clips: number;
  trials: number;
  /** Instead of a question of the test's own. */
  prompt?: string;
}

/** Every task, the one whose practice is walked by all tests first. */
export const EVERY_TASK: Part[] = [
  { task: 'pair', name: 'Which one', clips: 2, trials: 1 },
  { task: 'triangle', name: 'Odd one out', clips: 3, trials: 1 },
  { task: 'two-interval', name: 'Which has more', clips: 2, trials: 1 },
  { task: 'memory', name: 'From memory', clips: 1, trials: 1 },
  { task: 'reference', name: 'Against the reference', clips: 2, trials: 1 },
  { task: 'line', name: 'On one line', clips: 6, trials: 1 },
  { task: 'likeness', name: 'How near', clips: 6, trials: 1 },
  { task: 'duo-trio', name: 'Which twin', clips: 3, trials: 1 },
  { task: 'words', name: 'In words', clips: 1, trials: 1 },
];

/** Plans and opens a sitting through the bank's own routes. */
export async function openSitting(
  page: Page,
  parts: Part[],
  change: object,
  controls: (part: Part) => object = () => ({ self: false, levelCatch: false, repeats: 0 }),
): Promise<{ id: string; token: string; conductor: string | null; code: string }> {
  const { comparison, set } = await one(
    query<{ comparison: string; set: string }>(
      `SELECT clip_set.comparison_id AS comparison, clip_set.id AS set FROM clip_set
     JOIN comparison ON comparison.id = clip_set.comparison_id
     WHERE clip_set.state = 'ready' AND simulated ORDER BY clip_set.created_at DESC, context DESC LIMIT 1`,
    ),
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
    parts: parts.map((part) => ({
      task: part.task,
      clipSetId: set,
      prompt: part.prompt ?? `Asked as ${part.task}?`,
      tiesAllowed: true,
      trials: part.trials,
      pair: ['two-interval', 'memory'].includes(part.task) ? [chains[0]!.id, chains[1]!.id] : null,
      controls: controls(part),
      words: part.task === 'words' ? ['warm', 'thin'] : [],
    })),
    ...change,
  };
  const headers = { origin: new URL(page.url()).origin };
  const base = `/api/comparisons/${comparison}/sittings`;
  let id = '';
  // Another test may seal its plan between the two; a plan of one's own is a sitting of one's own then.
  await expect(async () => {
    const kept = await page.request.put(base, { data: plan, headers });
    expect(kept.ok(), await kept.text()).toBe(true);
    ({ id } = (await kept.json()) as { id: string });
    const opened = await page.request.post(`${base}/${id}/open`, { data: plan, headers });
    expect(opened.ok(), await opened.text()).toBe(true);
  }).toPass();
  const row = await one(
    query<{ token: string; code: string; room: string }>(
      'SELECT token, code, room FROM sitting WHERE id = $1',
      [id],
    ),
  );
  const link =
    row.room === 'together' ? await page.request.post(`/api/rooms/${id}`, { headers }) : null;
  const conductor = link ? ((await link.json()) as { token: string }).token : null;
  return { id, conductor, ...row };
}

/**
 * Walks through all parts, one trial each and the learning before the one from memory.
 * @param around what is done with each trial; must give the answer once
 */
export async function walkParts(
  listener: Page,
  parts: Part[],
  around: (part: Part, answer: () => Promise<void>) => Promise<void> = (_, answer) => answer(),
): Promise<void> {
  for (const [i, part] of parts.entries()) {
    if (i > 0) await beginPart(listener, i + 1, part.name);
    await expect(listener.getByRole('button', { name: /^(Done with|I know)/ })).toBeVisible();
    if (part.task === 'memory') await answerTrial(listener, 'learning', 2);
    await around(part, () => answerTrial(listener, part.task, part.clips));
  }
}

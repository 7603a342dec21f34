import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { type APIRequestContext, type Browser, expect, type Page, test } from '@playwright/test';
import { demo, EVERY_TASK, faults, openSitting, query, settleIn, signIn } from './bank';
import { one } from '../src/platform/one';

// What guards blindness, doors and data has one try: once is a fault.
test.describe.configure({ retries: 0 });

interface Route {
  address: string;
  methods: string[];
}

/** Every route there is, read off the files, so that a new one is tried without being named here. */
function routes(): Route[] {
  const found: Route[] = [];
  for (const [root, ending] of [
    ['src/app/api', '/route.ts'],
    ['src/pages/api', '.ts'],
  ]) {
    const base = path.resolve(__dirname, '..', root!);
    for (const file of readdirSync(base, { recursive: true, encoding: 'utf8' })) {
      if (!file.endsWith(ending!)) continue;
      const text = readFileSync(path.join(base, file), 'utf8');
      const named = [
        ...text.matchAll(
          /(?:export (?:const|async function|function)|as) (HEAD|OPTIONS|GET|POST|PUT|PATCH|DELETE)\b/g,
        ),
      ];
      const methods = named.map(([, method = '']) => method);
      const address = `/api/${file.slice(0, -ending!.length)}`;
      found.push({ address, methods: methods.length > 0 ? methods : ['GET'] });
    }
  }
  return found;
}

/** Doors that somebody without an account may stand before. */
/** Everybody with an account has these, conductors too. */
const OWN = /^\/api\/(account|rooms\/)/;
/** What came of closed sittings: for readers, too. */
const READ = /^\/api\/comparisons\/\[id\]\/sittings\/\[sittingId\]\/(files\/\[file\]|report)$/;
const OPEN = /^\/api\/(health|sign-in|code|invitations$|listen\/|conduct\/|train\/)/;

/** Real ids of the demo, so that only the check of who asks can refuse. */
async function filled(address: string): Promise<string> {
  const ids = await one(
    query<Record<string, string>>(
      `SELECT comparison.id::text AS id, clip_set.id::text AS "clipSetId", chain.id::text AS "chainId",
       take.id::text AS "takeId", sitting.id::text AS "sittingId", passage.id::text AS "passageId",
       (SELECT id::text FROM gear LIMIT 1) AS "gearId", (SELECT id::text FROM account LIMIT 1) AS "accountId",
       (SELECT sha256 FROM audio WHERE sha256 IS NOT NULL LIMIT 1) AS sha256
     FROM comparison JOIN clip_set ON clip_set.comparison_id = comparison.id
     JOIN take ON take.comparison_id = comparison.id JOIN chain ON chain.id = take.chain_id
     JOIN sitting ON sitting.comparison_id = comparison.id AND sitting.state = 'closed'
     JOIN passage ON passage.comparison_id = comparison.id LIMIT 1`,
    ),
  );
  const known: Record<string, string> = { ...ids, setId: ids.clipSetId!, file: 'key.json' };
  return address
    .replace('/[[...path]]', '')
    .replace(/\[(\w+)\]/g, (_, name: string) => known[name] ?? ids.id!);
}

async function statusOf(request: APIRequestContext, method: string, address: string) {
  const response = await request.fetch(address, {
    method,
    headers: { 'tus-resumable': '1.0.0' },
    ...(method === 'GET' || method === 'HEAD' ? {} : { data: {} }),
  });
  return { status: response.status(), text: method === 'HEAD' ? '' : await response.text() };
}

/** Invites somebody through the owner's page and makes their account in a browser of its own. */
async function comeIn(
  browser: Browser,
  owner: Page,
  name: string,
  role: string,
  limited = false,
): Promise<Page> {
  await owner.goto('/people');
  await owner.getByLabel('For whom').fill(name);
  await owner.getByLabel('As', { exact: true }).click();
  await owner.getByRole('option', { name: new RegExp(`^${role}`) }).click();
  if (limited) await owner.getByLabel('some comparisons only').check();
  await owner.getByRole('button', { name: 'Make an invitation' }).click();
  const link = await owner.getByText(/\/invitation\//).innerText();
  const page = await (await browser.newContext()).newPage();
  await page.goto(link);
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Password').fill('eleven quiet herons');
  await page.getByRole('button', { name: 'Make my account' }).click();
  await expect(page.getByText(name, { exact: true })).toBeVisible();
  await owner.goto(link);
  await expect(
    owner.getByRole('heading', { name: 'This invitation cannot be used' }),
  ).toBeVisible();
  return page;
}

test('no route answers a stranger, a conductor or a reader but those that are meant to', async ({
  page,
  browser,
  request,
}) => {
  // Every route, by three who may not.
  test.setTimeout(300_000);
  await signIn(page);
  const conductor = await comeIn(browser, page, 'Tomas Brandt', 'conductor');
  await expect(conductor.getByRole('heading', { name: /room/ })).toBeVisible();
  for (const place of ['/', '/gear', '/panel', '/people', '/bench']) {
    await conductor.goto(place);
    await expect(conductor).toHaveURL(/\/rooms$/);
  }
  const reader = await comeIn(browser, page, 'Uma Lind', 'reader');
  await expect(reader.getByRole('heading', { name: /report/ })).toBeVisible();
  for (const place of ['/', '/gear', '/panel', '/people', '/rooms', '/training']) {
    await reader.goto(place);
    await expect(reader).toHaveURL(/\/reports$/);
  }
  const { id } = await one(query<{ id: string }>('SELECT id FROM comparison LIMIT 1'));
  await conductor.goto(`/comparisons/${id}/results`);
  await expect(conductor).toHaveURL(/\/rooms$/);
  // The demo's own, which are long enough not to stand in a page by chance.
  const names = (
    await query<{ name: string }>(
      'SELECT chain.name FROM chain JOIN comparison ON comparison.id = comparison_id WHERE simulated',
    )
  ).map(({ name }) => name);
  expect(names.length).toBeGreaterThan(5);
  const shown = await conductor.content();
  for (const name of names) expect(shown).not.toContain(name);
  let tried = 0;
  for (const { address, methods } of routes()) {
    if (OPEN.test(address)) continue;
    const where = await filled(address);
    for (const method of methods) {
      const stranger = await statusOf(request, method, where);
      expect(stranger.status, `stranger: ${method} ${address}`).toBe(401);
      const blind = await statusOf(conductor.context().request, method, where);
      if (OWN.test(address)) expect(blind.status, `conductor: ${method} ${address}`).not.toBe(401);
      else expect(blind.status, `conductor: ${method} ${address}`).toBe(403);
      const reading = await statusOf(reader.context().request, method, where);
      const theirs = READ.test(address) || address === '/api/account';
      if (theirs) expect([401, 403], `reader: ${method} ${address}`).not.toContain(reading.status);
      else expect(reading.status, `reader: ${method} ${address}`).toBe(403);
      for (const name of names) expect(stranger.text + blind.text).not.toContain(name);
      tried++;
    }
  }
  // A reader opens a report, and finds everything in it.
  await reader.goto('/reports');
  expect(await faults(reader)).toEqual([]);
  await reader
    .getByRole('row')
    .filter({ hasText: 'Contralto, quiet verse' })
    .getByRole('link', { name: 'Contralto, which chain?', exact: true })
    .last()
    .click();
  await expect(reader.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(reader.getByText(names[0]!).first()).toBeVisible();
  expect(tried).toBeGreaterThan(60);
  test.info().annotations.push({ type: 'routes', description: `${tried} ways in were tried` });
});

test('an engineer who was invited works in the same studio until access ends', async ({
  page,
  browser,
}) => {
  await signIn(page);
  const engineer = await comeIn(browser, page, 'Aino Kallas', 'engineer');
  await expect(engineer.getByRole('link', { name: 'Contralto, which chain?' })).toBeVisible();
  await engineer.goto('/people');
  await expect(engineer.getByText('Only the owner lets people in or out')).toBeVisible();
  const invite = await statusOf(engineer.context().request, 'POST', '/api/people');
  expect(invite.status).toBe(400);
  const request = engineer.context().request;
  const refused = await request.post('/api/people', { data: { role: 'engineer', meantFor: 'x' } });
  expect(refused.status()).toBe(403);
  // A page that is open, and hears of changes.
  const { id } = await one(
    query<{ id: string }>('SELECT id FROM comparison WHERE simulated LIMIT 1'),
  );
  await engineer.goto(`/comparisons/${id}/question`);
  const stream = engineer.evaluate(
    (address) =>
      new Promise<string>((resolve) => {
        void fetch(address).then(async (response) => {
          const reader = response.body?.getReader();
          for (;;) {
            const part = await reader?.read();
            if (!part || part.done) return resolve(`ended with ${response.status}`);
          }
        });
      }),
    `/api/comparisons/${id}/events`,
  );
  await page.goto('/people');
  await page.getByRole('button', { name: 'End access: Aino Kallas' }).click();
  expect(await stream).toBe('ended with 200');
  await expect(page.getByRole('button', { name: 'Let in again: Aino Kallas' })).toBeVisible();
  await engineer.goto('/');
  await expect(engineer.getByRole('heading', { name: 'Sign in to Zeitbank' })).toBeVisible();
  // Let in again, the old cookie stays dead.
  await page.getByRole('button', { name: 'Let in again: Aino Kallas' }).click();
  await expect(page.getByRole('button', { name: 'End access: Aino Kallas' })).toBeVisible();
  await engineer.goto('/');
  await expect(engineer.getByRole('heading', { name: 'Sign in to Zeitbank' })).toBeVisible();
});

test('a listener of one sitting has no way into another, nor into a room’s controls', async ({
  page,
  browser,
}) => {
  await signIn(page);
  const { token: room, conductor } = await openSitting(page, [EVERY_TASK[0]!], {
    room: 'together',
  });
  const listener = await (await browser.newContext()).newPage();
  await settleIn(listener, `/listen/${demo().listenerToken}`, 'Visitor');
  const { address } = await one(
    query<{ address: string }>(
      `SELECT address FROM trial_clip JOIN sitting ON sitting.id = sitting_id
     WHERE token = $1 AND seat = 1 LIMIT 1`,
      [room],
    ),
  );
  const own = listener.context().request;
  const view = await own.get(`/api/listen/${room}/view`);
  expect((await view.json()) as object).toMatchObject({ phase: 'join', alias: null, clips: [] });
  const answer = {
    position: 1,
    answer: { choice: 'first' },
    key: '00000000-0000-4000-8000-000000000001',
    heardS: [3, 3],
    switches: 1,
    durationS: 9,
  };
  const given = await own.post(`/api/listen/${room}/answer`, { data: answer });
  expect(given.status()).toBe(401);
  expect((await own.get(`/api/listen/${room}/clip/${address}`)).status()).toBe(401);
  // The clip's address is real, but stands in another sitting.
  const elsewhere = await own.get(`/api/listen/${demo().listenerToken}/clip/${address}`);
  expect(elsewhere.status()).toBe(404);
  // Links open their own door only.
  for (const wrong of [
    `/api/conduct/${room}/view`,
    `/api/conduct/${room}/clip/${address}`,
    `/api/listen/${conductor}/view`,
    `/api/listen/${conductor}/clip/${address}`,
  ]) {
    expect((await own.get(wrong)).status(), wrong).toBe(404);
  }
  const move = await own.post(`/api/conduct/${room}/move`, { data: { what: 'next', from: 0 } });
  expect(move.status()).toBe(404);
});

test('somebody of the panel listens by a link of their own, which can be withdrawn', async ({
  page,
  browser,
}) => {
  await signIn(page);
  await page.goto('/panel');
  await page.getByRole('button', { name: 'Add a listener' }).click();
  await page.getByLabel('Name').fill('Ilse');
  await page.getByLabel('Experience').fill('second cello, thirty years');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('cell', { name: 'second cello, thirty years' })).toBeVisible();
  await page.goto('/');
  await page.getByRole('link', { name: 'Contralto, which chain?' }).click();
  await page
    .getByRole('navigation', { name: 'Steps' })
    .getByRole('link', { name: /^Sitting/ })
    .click();
  // The demo's own sitting is the oldest.
  const field = page.getByRole('combobox', { name: 'From the panel' }).last();
  await field.click();
  await expect(page.getByRole('option').nth(1)).toBeVisible();
  // However late the bank answers, the list is narrowed at once: what is pressed must not move.
  const late = /[?&]q=Ilse/;
  await page.route(late, () => undefined);
  await field.fill('Ilse');
  await expect(page.getByRole('option')).toHaveText(['Ilse']);
  await page.getByRole('option').click();
  await page.unroute(late);
  await page.getByRole('button', { name: 'Make links' }).last().click();
  const links = page.getByRole('table', { name: 'Links of their own' });
  await expect(links.getByRole('cell', { name: 'not yet' })).toBeVisible();
  // Shown once, and nowhere after a look elsewhere.
  const link = await page.getByText(/\/listen\/[\w-]{32}$/).innerText();
  await page.reload();
  await expect(links.getByRole('cell', { name: 'not yet' })).toBeVisible();
  expect(await page.content()).not.toContain(link.split('/').pop());
  const phone = await (await browser.newContext()).newPage();
  await phone.goto(link);
  await expect(phone.getByLabel('A name for you')).toHaveValue('Ilse');
  await phone.getByRole('checkbox').check();
  await phone.getByRole('button', { name: 'Begin' }).click();
  await expect(phone.getByRole('button', { name: 'Play' })).toBeVisible();
  // Another device of the same person asks first, and is counted.
  const tablet = await (await browser.newContext()).newPage();
  await tablet.goto(link);
  await expect(tablet.getByRole('heading', { name: 'You began on another device' })).toBeVisible();
  await tablet.getByRole('button', { name: 'Go on here' }).click();
  await expect(tablet.getByRole('button', { name: 'Play' })).toBeVisible();
  // Others of the same comparison may have come from two devices, too.
  const seat = page.getByRole('row', { name: /Ilse/ });
  await expect(seat.getByRole('cell', { name: /^2, the last from/ })).toBeVisible();
  const row = links.getByRole('row', { name: /Ilse/ });
  await expect(row.getByRole('cell', { name: 'has come' })).toBeVisible();
  await page.getByRole('button', { name: 'Withdraw the link of Ilse' }).click();
  await expect(links.getByRole('cell', { name: /^withdrawn/ })).toBeVisible();
  await phone.reload();
  await expect(phone.getByRole('heading', { name: 'This link leads to no sitting' })).toBeVisible();
});

test('an engineer of some comparisons finds nothing of the others by any route', async ({
  page,
  browser,
}) => {
  test.setTimeout(300_000);
  await signIn(page);
  const limited = await comeIn(browser, page, 'Nils Halden', 'engineer', true);
  await expect(limited.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(limited.getByRole('link', { name: 'Contralto, which chain?' })).toHaveCount(0);
  const names = (
    await query<{ name: string }>(
      'SELECT chain.name FROM chain JOIN comparison ON comparison.id = comparison_id WHERE simulated',
    )
  ).map(({ name }) => name);
  let tried = 0;
  for (const { address, methods } of routes()) {
    if (!/^\/api\/(comparisons\/\[id\]|rooms)/.test(address)) continue;
    const where = await filled(address);
    for (const method of methods) {
      const { status, text } = await statusOf(limited.context().request, method, where);
      // What is sent is read before what it is about: either refuses.
      if (method === 'GET') expect(status, `${method} ${address}`).toBe(404);
      else expect([400, 404, 405], `${method} ${address}`).toContain(status);
      for (const name of names) expect(text, `${method} ${address}`).not.toContain(name);
      tried++;
    }
  }
  expect(tried).toBeGreaterThan(50);
  for (const place of ['/', '/decisions', '/decisions/heard', '/reports', '/bin', '/training']) {
    await limited.goto(place);
    const shown = await limited.content();
    for (const name of names) expect(shown, place).not.toContain(name);
  }

  // The owner shows one; it is there without anything being asked.
  await limited.goto('/');
  await page.goto('/people');
  await page.getByRole('button', { name: 'Change what Nils Halden sees' }).click();
  await page.getByLabel('Comparisons', { exact: true }).fill('Contralto, which');
  await expect(async () => {
    await page.getByRole('option', { name: 'Contralto, which chain?', exact: true }).click();
  }).toPass();
  expect(await faults(page)).toEqual([]);
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'Nils Halden' })).toContainText(
    'One comparison',
  );
  await limited.reload();
  await limited.getByRole('link', { name: 'Contralto, which chain?', exact: true }).click();
  await expect(limited.getByRole('navigation', { name: 'Steps' })).toBeVisible();
});

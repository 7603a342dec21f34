import { expect, test } from '@playwright/test';
import { demo, EVERY_TASK, openSitting, query, settleIn, signIn } from './bank';
import { one } from '../src/platform/one';

// What guards blindness, doors and data has one try: once is a fault.
test.describe.configure({ retries: 0 });

test('strangers get no engineer page and no route', async ({ page }) => {
  const { id, set, take, chain } = await one(
    query<Record<string, string>>(
      `SELECT comparison.id::text, clip_set.id::text AS set, take.id::text AS take, chain.id::text AS chain
     FROM comparison JOIN clip_set ON clip_set.comparison_id = comparison.id
     JOIN take ON take.comparison_id = comparison.id JOIN chain ON chain.id = take.chain_id LIMIT 1`,
    ),
  );
  for (const path of [
    '/',
    `/comparisons/${id}`,
    `/comparisons/${id}/results`,
    '/comparisons/new',
  ]) {
    await page.goto(path);
    await expect(page.getByRole('heading', { name: 'Sign in to Zeitbank' })).toBeVisible();
  }
  const base = `/api/comparisons/${id}`;
  for (const path of [
    `${base}/events`,
    `${base}/takes/${take}/audio`,
    `${base}/takes/${take}/peaks`,
    `${base}/clips/${set}/${chain}`,
    `${base}/sittings/${id}/files/key.json`,
  ]) {
    expect((await page.request.get(path)).status(), path).toBe(401);
  }
  for (const path of ['/api/comparisons', `${base}/chains`, `${base}/match`]) {
    expect((await page.request.post(path, { data: {} })).status(), path).toBe(401);
  }
  const upload = await page.request.post('/api/uploads', {
    headers: { 'tus-resumable': '1.0.0', 'upload-length': '10' },
  });
  expect(upload.status()).toBe(401);
});

test('no script runs in a page but the product’s own', async ({ page }) => {
  const refused: string[] = [];
  page.on('console', (message) => {
    if (/content security policy/i.test(message.text()))
      refused.push(`${page.url()}: ${message.text()}`);
  });
  const seen = new Set<string>();
  await signIn(page);
  const { id, conductor } = await openSitting(page, EVERY_TASK.slice(0, 1), { room: 'together' });
  const { comparison } = await one(
    query<{ comparison: string }>(
      'SELECT comparison_id::text AS comparison FROM sitting WHERE id = $1',
      [id],
    ),
  );
  const base = `/comparisons/${comparison}`;
  const places = [
    '/',
    '/gear',
    '/bench',
    '/panel',
    '/decisions',
    '/decisions/heard',
    '/decisions/shortest',
    '/decisions/bridge',
    '/training',
    '/reports',
    '/people',
    '/log',
    '/bin',
    '/rooms',
    '/listen',
    '/nowhere',
  ];
  const steps = [
    'question',
    'chains',
    'takes',
    'match',
    'sitting',
    'results',
    'decision',
    'run-sheet',
  ];
  for (const place of [
    ...places,
    ...steps.map((step) => `${base}/${step}`),
    `/listen/${demo().listenerToken}`,
    `/conduct/${conductor}`,
  ]) {
    const response = await page.goto(place, { waitUntil: 'load' });
    const policy = response?.headers()['content-security-policy'] ?? '';
    const scripts = /script-src ([^;]*)/.exec(policy)?.[1] ?? '';
    expect(scripts, place).toMatch(/^'self' 'nonce-[\w+/]{22}=='$/);
    seen.add(scripts);
    const html = (await response?.text()) ?? '';
    const nonce = /nonce-([^']*)/.exec(scripts)?.[1] ?? '';
    expect(html.split(`nonce="${nonce}"`).length, place).toBeGreaterThan(2);
    // What somebody smuggles in does not run.
    const ran = await page.evaluate(() => {
      const script = document.createElement('script');
      script.textContent = 'window.smuggled = true;';
      document.body.append(script);
      return 'smuggled' in window;
    });
    expect(ran, place).toBe(false);
  }
  expect(seen.size).toBe(places.length + steps.length + 2);
  // One report for each that was smuggled in, and none for the product's own.
  expect(new Set(refused.map((line) => line.split(': ')[0])).size).toBe(seen.size);
  expect(refused.length, refused.join('\n')).toBe(seen.size);
  const route = await page.request.get('/api/health');
  expect(route.headers()['content-security-policy']).toContain("default-src 'none'");
});

test('requests from other pages are refused', async ({ page }) => {
  await signIn(page);
  const made = await page.request.post('/api/comparisons', {
    headers: { origin: 'http://elsewhere.example' },
    data: { title: 'x', question: '', sourceName: 'x', passageName: 'x' },
  });
  expect(made.status()).toBe(403);
});

test('signing in is refused with a wrong password, and ends by signing out', async ({ page }) => {
  await page.goto('/sign-in');
  await page.getByLabel('Name').fill(demo().name);
  await page.getByLabel('Password').fill('surely not this one');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('Name and password do not fit together.')).toBeVisible();
  await signIn(page);
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page.getByRole('heading', { name: 'Sign in to Zeitbank' })).toBeVisible();
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Sign in to Zeitbank' })).toBeVisible();
});

test('wrong links and odd addresses are answered in a sentence', async ({ page }) => {
  await page.goto('/listen/AAAAAAAAAAAAAAAA');
  await expect(page.getByRole('heading', { name: 'This link leads to no sitting' })).toBeVisible();
  await page.goto('/listen/%3Cscript%3E');
  await expect(page.getByRole('heading', { name: 'This link leads to no sitting' })).toBeVisible();
  await signIn(page);
  for (const path of [
    '/nowhere/at/all',
    '/comparisons/not-an-id/match',
    '/comparisons/00000000-0000-4000-8000-000000000000',
  ]) {
    await page.goto(path);
    await expect(
      page.getByRole('heading', { name: 'There is nothing at this address' }),
    ).toBeVisible();
  }
  const odd = await page.request.post('/api/comparisons', { data: { title: 7 } });
  expect(odd.status()).toBe(400);
});

test('sound is only read; a copy fetched in parts is made once; too many at once are refused', async ({
  page,
  browser,
}) => {
  await signIn(page);
  const { token } = await openSitting(page, [{ ...EVERY_TASK[0]!, trials: 3 }], {});
  const listener = await (await browser.newContext()).newPage();
  await settleIn(listener, `/listen/${token}`, 'Ranger Rolf');
  let first: string | undefined;
  await expect
    .poll(async () => {
      const view = await listener.request.get(`/api/listen/${token}/view`);
      first = ((await view.json()) as { clips: { address: string }[] }).clips[0]?.address;
      return first;
    })
    // Those of the practice are drawn anew each time, so no two of them are alike.
    .toMatch(/^(?!settling)./);
  const address = `/api/listen/${token}/clip/${first}`;
  const headers = { origin: new URL(page.url()).origin };
  for (const method of ['POST', 'PUT', 'DELETE', 'PATCH']) {
    const refused = await listener.request.fetch(address, { method, headers });
    expect(refused.status(), method).toBe(405);
  }
  const whole = await (await listener.request.get(address)).body();
  const head = await listener.request.fetch(address, { method: 'HEAD' });
  expect(head.headers()['content-length']).toBe(String(whole.length));
  const parts: Buffer[] = [];
  for (let at = 0; at < whole.length; at += 100_000) {
    const range = `bytes=${at}-${at + 99_999}`;
    const part = await listener.request.get(address, { headers: { range } });
    expect(part.status()).toBe(206);
    parts.push(await part.body());
  }
  expect(Buffer.concat(parts).equals(whole)).toBe(true);
  const crowd = await Promise.all(
    Array.from({ length: 60 }, async () => (await listener.request.get(address)).status()),
  );
  expect(new Set(crowd)).toEqual(new Set([200, 429]));
});

test('an upload that cannot be is refused in a sentence', async ({ page }) => {
  await signIn(page);
  const { id } = await one(
    query<{ id: string }>('SELECT id FROM comparison WHERE simulated LIMIT 1'),
  );
  const encoded = (text: string) => Buffer.from(text).toString('base64');
  const send = (metadata: string, length = '10') =>
    page.request.post('/api/uploads', {
      headers: {
        origin: new URL(page.url()).origin,
        'tus-resumable': '1.0.0',
        'upload-length': length,
        'upload-metadata': metadata,
      },
    });
  const own = `comparisonId ${encoded(id)}`;
  for (const [metadata, length] of [
    [`filename ${encoded('a.wav')}`, '10'],
    [`comparisonId ${encoded('no id')},filename ${encoded('a.wav')}`, '10'],
    [`${own},filename ${encoded('x'.repeat(400))}`, '10'],
    [`${own},filename ${encoded('a.wav')},pattern ${encoded('{nothing}')}`, '10'],
    [`${own},filename ${encoded('a.wav')}`, '0'],
    [`${own},filename ${encoded('a.wav')}`, String(17 * 1024 ** 3)],
  ]) {
    const refused = await send(metadata!, length);
    const said = await refused.text();
    expect(refused.status(), said).toBeGreaterThanOrEqual(400);
    expect(refused.status(), said).toBeLessThan(500);
    expect(said).toMatch(/^[A-Z“a][^{}[\]]*[.]$/);
  }
});

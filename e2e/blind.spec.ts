import { createHash } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import { expect, type Response, test } from '@playwright/test';
import {
  answerPair,
  demo,
  EVERY_TASK,
  openSitting,
  query,
  settleIn,
  signIn,
  walkParts,
} from './bank';

interface Received {
  url: string;
  /** From asking to the last byte. */
  tookMs: number;
  headers: Record<string, string>;
  body: Buffer;
}

/** Header fields that belong to the moment or the connection. */
const OF_THE_MOMENT = ['date', 'connection', 'keep-alive'];

interface Traffic {
  chain: string;
  features: number[];
}

/** Clips whose nearest neighbour in the traffic is of the same chain. */
function hitsOf(rows: readonly Traffic[], chains: readonly string[]): number {
  return rows.filter((row, i) => {
    let [nearest, least] = [-1, Number.POSITIVE_INFINITY];
    rows.forEach((other, j) => {
      const far = Math.hypot(...row.features.map((x, k) => x - other.features[k]));
      if (j !== i && far < least) [nearest, least] = [j, far];
    });
    return chains[nearest] === chains[i];
  }).length;
}

/** Guesses the chain of each clip by what a network shows, and how often mixed-up chains do as well. */
function classified(rows: readonly Traffic[]): { hits: number; chance: number; p: number } {
  const scaled = rows.map((row) => ({
    ...row,
    features: row.features.map((x, k) => {
      const all = rows.map(({ features }) => features[k]);
      const mean = all.reduce((a, b) => a + b, 0) / all.length;
      const spread = Math.sqrt(all.reduce((sum, y) => sum + (y - mean) ** 2, 0) / all.length);
      return spread === 0 ? 0 : (x - mean) / spread;
    }),
  }));
  const chains = rows.map(({ chain }) => chain);
  const hits = hitsOf(scaled, chains);
  let [state, sum, asMany] = [1, 0, 0];
  const SHUFFLES = 1000;
  for (let round = 0; round < SHUFFLES; round++) {
    const mixed = [...chains];
    for (let i = mixed.length - 1; i > 0; i--) {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      const j = Math.floor((state / 2 ** 32) * (i + 1));
      [mixed[i], mixed[j]] = [mixed[j], mixed[i]];
    }
    const now = hitsOf(scaled, mixed);
    sum += now;
    if (now >= hits) asMany++;
  }
  return { hits, chance: sum / SHUFFLES, p: (asMany + 1) / (SHUFFLES + 1) };
}

test('nothing one listener receives tells which chain is which', async ({ page, browser }) => {
  test.setTimeout(300_000);
  const engineer = await (await browser.newContext()).newPage();
  await signIn(engineer);
  const received: Received[] = [];
  const pending: Promise<void>[] = [];
  page.on('response', (response: Response) => {
    pending.push(
      (async () => {
        const body = await response.body().catch(() => Buffer.alloc(0));
        await response.finished();
        const { requestStart, responseEnd } = response.request().timing();
        received.push({
          url: response.url(),
          tookMs: responseEnd - requestStart,
          headers: await response.allHeaders(),
          body,
        });
      })(),
    );
  });
  const pairs = { ...EVERY_TASK[0], trials: 4 };
  const { token } = await openSitting(engineer, [pairs, ...EVERY_TASK.slice(1)], {});
  await engineer.close();
  await settleIn(page, `/listen/${token}`, 'Curious Kim');
  for (let position = 1; position < 4; position++) {
    await answerPair(page, position, position % 2 ? 'first' : 'second');
  }
  await expect(page.getByText('Pair 4 of 4')).toBeVisible();
  await walkParts(page, EVERY_TASK);
  await expect(page.getByRole('heading', { name: 'Thank you, Curious Kim' })).toBeVisible();
  await Promise.all(pending);

  // What must not be there: everything that the bank knows of chains, takes and clips.
  const rows = await query<{ secret: string }>(
    `SELECT name AS secret FROM chain UNION SELECT items FROM chain WHERE items <> ''
     UNION SELECT id::text FROM chain UNION SELECT id::text FROM take UNION SELECT file_name FROM take
     UNION SELECT sha256 FROM audio UNION SELECT clip_set_id::text FROM clip
     UNION SELECT trim(to_char(gain_db, 'FM990.000')) FROM clip
     UNION SELECT round(gain_db::numeric, 2)::text FROM clip WHERE abs(gain_db) > 1
     UNION SELECT gain_db::text FROM clip UNION SELECT delay_samples::text FROM clip WHERE delay_samples <> 0
     UNION SELECT before_lufs::text FROM clip UNION SELECT nullif(price_cents, 0)::text FROM chain`,
  );
  const names = await query<{ name: string }>('SELECT name FROM chain');
  const secrets = [
    ...rows.map(({ secret }) => secret),
    ...names.flatMap(({ name }) => name.split(' › ')),
  ].filter((secret) => secret && secret.length > 3);
  expect(secrets.length).toBeGreaterThan(40);
  const told = received.filter(({ url }) => !url.includes('/_next/static/'));
  expect(told.length).toBeGreaterThan(15);
  for (const { url, headers, body } of told) {
    const isSound = url.includes('/clip/');
    const text = `${url}\n${JSON.stringify(headers)}\n${isSound ? body.subarray(0, 200).toString('latin1') : body.toString()}`;
    for (const secret of secrets) {
      expect(text.includes(secret), `${secret} in ${url}`).toBe(false);
    }
  }

  // Sounds: one length, one header block, one set of headers; no bytes twice; no address twice.
  const sounds = received.filter(({ url }) => /\/clip\/(?!settling)/.test(url));
  // Four pairs, an odd one out, one of two, two learned and one alone, two, six, three, one.
  const CLIPS = 8 + 3 + 2 + 3 + 2 + 6 + 3 + 1;
  expect(sounds.length).toBe(CLIPS);
  const shape = ({ headers, body }: Received) =>
    JSON.stringify([
      Object.entries(headers)
        .filter(([name]) => !OF_THE_MOMENT.includes(name))
        .sort(),
      body.length,
      body.subarray(0, 44).toString('hex'),
    ]);
  expect(new Set(sounds.map(shape)).size).toBe(1);
  expect(
    new Set(sounds.map(({ body }) => createHash('sha256').update(body).digest('hex'))).size,
  ).toBe(CLIPS);
  expect(new Set(sounds.map(({ url }) => url)).size).toBe(CLIPS);

  // What differs between clips never comes twice, so that it cannot go with the chain; every chain came
  // more than once, so a field that went with it would have repeated.
  const trials = await query<{ address: string; chain: string; word: string }>(
    `SELECT address, chain_id::text AS chain, word FROM trial_clip
     JOIN listener USING (sitting_id, seat) WHERE alias = 'Curious Kim'`,
  );
  const chainOf = new Map(trials.map(({ address, chain }) => [address, chain]));
  expect(new Set(trials.map(({ chain }) => chain)).size).toBeLessThan(trials.length);
  expect(new Set(trials.map(({ word }) => word)).size).toBe(CLIPS);
  for (const { url } of sounds) {
    const address = url.split('/').pop() ?? '';
    expect(chainOf.has(address)).toBe(true);
    expect(address).toMatch(/^[A-Za-z0-9_-]{20}$/);
  }
  // Sizes, headers, times and order of the traffic name no chain better than chance.
  const traffic = sounds.map(({ url, headers, body, tookMs }, i) => ({
    chain: chainOf.get(url.split('/').pop() ?? '') ?? '',
    features: [body.length, JSON.stringify(headers).length, tookMs, i],
  }));
  const { hits, chance, p } = classified(traffic);
  const bytes = received.reduce((sum, { body }) => sum + body.length, 0);
  test.info().annotations.push({
    type: 'searched',
    description: `${bytes} bytes; ${hits} of ${CLIPS} chains guessed from the traffic, ${chance.toFixed(1)} by chance, p ${p.toFixed(3)}`,
  });
  expect(p).toBeGreaterThan(0.001);

  // In the views: the fields are the same in every trial, and clips hold a word and an address only.
  const views = received.filter(({ url }) =>
    /\/api\/listen\/[^/]+\/(answer|stage|join|view)$/.test(url),
  );
  const fields = new Set(
    views.map(({ body }) =>
      Object.keys(JSON.parse(body.toString()) as object)
        .sort()
        .join(),
    ),
  );
  expect(fields.size).toBe(1);
  const parts = new Set<string>();
  for (const { body } of views) {
    const { clips, part } = JSON.parse(body.toString()) as { clips: object[]; part: object };
    for (const clip of clips) expect(Object.keys(clip).sort()).toEqual(['address', 'word']);
    parts.add(Object.keys(part).sort().join());
  }
  expect(parts.size).toBe(1);
});

test('the listener’s page stays light: no chain, chart or waveform code', async ({ page }) => {
  const scripts: Promise<Buffer>[] = [];
  page.on('response', (response) => {
    if (response.url().endsWith('.js')) scripts.push(response.body());
  });
  await page.goto(`/listen/${demo().listenerToken}`, { waitUntil: 'networkidle' });
  const bytes = (await Promise.all(scripts)).reduce((sum, body) => sum + gzipSync(body).length, 0);
  test.info().annotations.push({ type: 'script', description: `${bytes} bytes, gzip` });
  expect(bytes).toBeGreaterThan(20_000);
  expect(bytes).toBeLessThanOrEqual(200_000);
});

test('the engineer cannot look before closing', async ({ page }) => {
  await signIn(page);
  const [{ id, comparison }] = await query<{ id: string; comparison: string }>(
    `SELECT id::text, comparison_id::text AS comparison FROM sitting WHERE state = 'open' LIMIT 1`,
  );
  const [{ nonce }] = await query<{ nonce: string }>(
    `SELECT sealed_key::json->>'nonce' AS nonce FROM sitting WHERE id = $1`,
    [id],
  );
  for (const file of ['key.json', 'answers.csv', 'answers.json', 'analysis.json']) {
    const got = await page.request.get(
      `/api/comparisons/${comparison}/sittings/${id}/files/${file}`,
    );
    expect(got.status()).toBe(409);
    expect(await got.text()).not.toContain(nonce);
  }
  for (const place of ['sitting', `results?sitting=${id}`, 'match', 'takes']) {
    const got = await page.request.get(`/comparisons/${comparison}/${place}`);
    expect(await got.text()).not.toContain(nonce);
  }
});

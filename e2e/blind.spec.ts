import { createHash } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import { expect, type Page, test } from '@playwright/test';
import { guessAmong } from '../src/core/test/guesser';
import {
  answerPair,
  demo,
  EVERY_TASK,
  joinRoom,
  openSitting,
  query,
  setRoomLevel,
  settleIn,
  signIn,
  walkParts,
} from './bank';
import { collect, expectNothingTold, secretsOfBank, shapeOf, soundsOf } from './search';
import { one } from '../src/platform/one';

// What guards blindness, doors and data has one try: once is a fault.
test.describe.configure({ retries: 0 });

interface Traffic {
  chain: string;
  features: number[];
}

/** Clips whose nearest neighbour in the traffic is of the same chain. */
function hitsOf(rows: readonly Traffic[], chains: readonly string[]): number {
  return rows.filter((row, i) => {
    let [nearest, least] = [-1, Number.POSITIVE_INFINITY];
    rows.forEach((other, j) => {
      const far = Math.hypot(...row.features.map((x, k) => x - other.features[k]!));
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
      const all = rows.map(({ features }) => features[k]!);
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
      [mixed[i], mixed[j]] = [mixed[j]!, mixed[i]!];
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
  const arrived = collect(page);
  const pairs = { ...EVERY_TASK[0]!, trials: 4 };
  const { token } = await openSitting(engineer, [pairs, ...EVERY_TASK.slice(1)], {});
  await engineer.close();
  await settleIn(page, `/listen/${token}`, 'Curious Kim');
  for (let position = 1; position < 4; position++) {
    await answerPair(page, position, position % 2 ? 'first' : 'second');
  }
  await expect(page.getByText('Pair 4 of 4')).toBeVisible();
  await walkParts(page, EVERY_TASK);
  await expect(page.getByRole('heading', { name: 'Thank you, Curious Kim' })).toBeVisible();
  const received = await arrived();
  expect(received.filter(({ url }) => !url.includes('/_next/static/')).length).toBeGreaterThan(15);
  expectNothingTold(received, await secretsOfBank());

  // Sounds: one length, one header block, one set of headers; no bytes twice; no address twice.
  const sounds = soundsOf(received);
  // Four pairs, an odd one out, one of two, two learned and one alone, two, six, six, three, one.
  const CLIPS = 8 + 3 + 2 + 3 + 2 + 6 + 6 + 3 + 1;
  expect(sounds.length).toBe(CLIPS);
  expect(new Set(sounds.map(shapeOf)).size).toBe(1);
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
  const script = received
    .filter(({ url }) => url.endsWith('.js'))
    .reduce((sum, { headers, body }) => sum + Number(headers['content-length'] ?? body.length), 0);
  expect(script).toBeLessThan(1_000_000);
});

test('in a room neither the phones nor the conductor are told which chain is which', async ({
  page,
  browser,
}) => {
  test.setTimeout(240_000);
  const TRIALS = 3;
  await signIn(page);
  const pairs = { ...EVERY_TASK[0]!, trials: TRIALS };
  const { id, token, conductor } = await openSitting(page, [pairs], { room: 'together' });
  const newPage = async () => (await browser.newContext()).newPage();
  const [stage, phone] = [await newPage(), await newPage()];
  const [atStage, onPhone] = [collect(stage), collect(phone)];
  await phone.goto(`/listen/${token}`);
  await joinRoom(phone, 'Room Runa');
  await stage.goto(`/conduct/${conductor}`);
  await expect(stage.getByText('1 listener has joined.')).toBeVisible();
  await setRoomLevel(stage);
  await stage.getByRole('button', { name: 'Begin without practice' }).click();
  for (let position = 1; position <= TRIALS; position++) {
    await stage.getByRole('button', { name: 'Play each in turn' }).click();
    await expect(phone.getByText('Now choose.')).toBeVisible({ timeout: 90_000 });
    await phone
      .getByRole('button', { name: /suits better$/ })
      .first()
      .click();
    await phone.getByRole('button', { name: 'Done with this trial' }).click();
    await expect(stage.getByText('All have answered.')).toBeVisible();
    await stage.getByRole('button', { name: /^(Next trial|End the sitting)$/ }).click();
  }
  await expect(phone.getByRole('heading', { name: /^Thank you/ })).toBeVisible();
  const [conducted, answered] = [await atStage(), await onPhone()];
  const secrets = await secretsOfBank();
  expectNothingTold(conducted, secrets);
  expectNothingTold(answered, secrets);

  // Phones load no sound; the conductor's machine loads each clip once, all of one shape.
  expect(soundsOf(answered)).toEqual([]);
  const sounds = soundsOf(conducted).filter(({ url }) => !url.includes('settling'));
  expect(new Set(sounds.map(({ url }) => url)).size).toBe(2 * TRIALS);
  expect(new Set(sounds.map(shapeOf)).size).toBe(1);
  expect(
    new Set(sounds.map(({ body }) => createHash('sha256').update(body).digest('hex'))).size,
  ).toBe(2 * TRIALS);
  const views = conducted.filter(({ url }) => /\/api\/conduct\/[^/]+\/\w+$/.test(url));
  expect(views.length).toBeGreaterThan(TRIALS);
  for (const { body } of views) {
    const { clips } = JSON.parse(body.toString()) as { clips: object[] };
    for (const clip of clips) expect(Object.keys(clip).sort()).toEqual(['address', 'word']);
  }
  const phoneViews = answered.filter(({ url }) => /\/api\/listen\/[^/]+\/\w+$/.test(url));
  expect(phoneViews.length).toBeGreaterThan(TRIALS);
  for (const { body } of phoneViews) {
    const { clips } = JSON.parse(body.toString()) as { clips: { address: string }[] };
    for (const { address } of clips) expect(address).toBe('');
  }
  const { count } = await one(
    query<{ count: number }>('SELECT count(*)::int AS count FROM answer WHERE sitting_id = $1', [
      id,
    ]),
  );
  expect(count).toBe(TRIALS);
});

/** A sitting with many seats, for programs that look at what all of them would be shown. */
async function crowd(page: Page, codeMode: 'fresh' | 'fixed'): Promise<string> {
  const controls = { self: true, levelCatch: true, repeats: 2 };
  const chosen = EVERY_TASK.filter(({ task }) => ['pair', 'reference', 'line'].includes(task));
  const parts = chosen.map(({ task, trials, ...part }) => ({
    ...part,
    task,
    trials: task === 'pair' ? 6 : trials,
  }));
  const { id } = await openSitting(page, parts, { seats: 100, codeMode }, (part) =>
    part.task === 'line' ? { ...controls, self: false, levelCatch: false, repeats: 1 } : controls,
  );
  return id;
}

interface ShownTrial {
  seat: number;
  position: number;
  part: number;
  kind: string;
  words: string[];
  chains: string[];
}

for (const codeMode of ['fresh', 'fixed'] as const) {
  test(`with ${codeMode} words a program finds no control and no twin by words and places`, async ({
    page,
  }) => {
    await signIn(page);
    const rows: ShownTrial[] = [];
    for (let i = 0; i < 2; i++) {
      const id = await crowd(page, codeMode);
      rows.push(
        ...(await query<ShownTrial>(
          `SELECT ${i} * 1000 + seat AS seat, position, part, kind, array_agg(word ORDER BY slot) AS words,
             array_agg(chain_id::text ORDER BY slot) AS chains
           FROM trial JOIN trial_clip USING (sitting_id, seat, position)
           WHERE sitting_id = $1 GROUP BY seat, position, part, kind ORDER BY seat, position`,
          [id],
        )),
      );
    }
    const seats = [...new Set(rows.map(({ seat }) => seat))];
    expect(seats.length).toBe(200);
    const halves = <T>(list: readonly T[]) =>
      [0, 1].map((side) => list.filter((_, i) => i % 2 === side)) as [T[], T[]];
    const told: string[] = [];
    for (const kind of ['self', 'louder', 'repeat']) {
      for (const part of [1, 2, 3]) {
        const cases = seats.map((seat) => {
          const own = rows.filter((row) => row.seat === seat && row.part === part);
          const all = rows.filter((row) => row.seat === seat).flatMap(({ words }) => words);
          return own.map((trial, i) => ({
            wanted: trial.kind === kind,
            signs: [
              `place ${i}`,
              `counts ${trial.words
                .map((word) => all.filter((one) => one === word).length)
                .sort()
                .join()}`,
              ...trial.words.map((word) => `word ${word}`),
            ],
          }));
        });
        if (!cases[0]!.some(({ wanted }) => wanted)) continue;
        const { found, chance, sigmas } = guessAmong(...halves(cases));
        told.push(`${kind} in part ${part}: ${found.toFixed(2)} (chance ${chance.toFixed(2)})`);
        expect(sigmas, told.at(-1)).toBeLessThan(4);
      }
    }
    // The recording that stands twice on a line.
    const twice = rows
      .filter(({ chains }) => chains.length > 3 && new Set(chains).size < chains.length)
      .map(({ chains, words }) =>
        chains.map((chain, slot) => ({
          wanted: chains.filter((one) => one === chain).length > 1,
          signs: [`slot ${slot}`, `word ${words[slot]}`],
        })),
      );
    expect(twice.length).toBeGreaterThan(150);
    const twin = guessAmong(...halves(twice));
    told.push(`twin on a line: ${twin.found.toFixed(2)} (chance ${twin.chance.toFixed(2)})`);
    expect(twin.sigmas, told.at(-1)).toBeLessThan(4);
    test.info().annotations.push({ type: 'guessed', description: told.join('; ') });
  });
}

test('no seed is found by counting from another', async ({ page }) => {
  await signIn(page);
  await crowd(page, 'fresh');
  const rows = await query<{ seed: string }>(
    `SELECT seed FROM trial UNION ALL SELECT seed FROM trial_clip
     UNION ALL SELECT seeds->>'trial' FROM blind_pack
     UNION ALL SELECT value FROM blind_pack, jsonb_each_text(seeds->'clips')`,
  );
  const seeds = rows.map(({ seed }) => BigInt(`0x${seed}`));
  expect(seeds.length).toBeGreaterThan(1000);
  const known = new Set(seeds);
  expect(known.size).toBe(seeds.length);
  let guessed = 0;
  for (const seed of seeds) {
    for (let step = 1n; step <= 64n; step++) {
      if (known.has(seed + step) || known.has(seed ^ step)) guessed++;
    }
  }
  expect(guessed).toBe(0);
  // Every one of the 128 bits is drawn: each is set as often as not.
  for (let bit = 0n; bit < 128n; bit++) {
    const set = seeds.filter((seed) => (seed >> bit) & 1n).length;
    const sigma = Math.sqrt(seeds.length) / 2;
    expect(Math.abs(set - seeds.length / 2) / sigma, `bit ${bit}`).toBeLessThan(5.5);
  }
});

test('whoever remembers somebody’s link can neither answer nor look unseen', async ({
  page,
  browser,
}) => {
  await signIn(page);
  const { id } = await openSitting(page, [{ ...EVERY_TASK[0]!, trials: 3 }], {});
  const { comparison, panelist } = await one(
    query<{ comparison: string; panelist: string }>(
      `SELECT comparison_id::text AS comparison, (SELECT id::text FROM panelist LIMIT 1) AS panelist
     FROM sitting WHERE id = $1`,
      [id],
    ),
  );
  const headers = { origin: new URL(page.url()).origin };
  const made = await page.request.post(`/api/comparisons/${comparison}/sittings/${id}/links`, {
    data: { panelistIds: [panelist] },
    headers,
  });
  const { links } = (await made.json()) as { links: { token: string }[] };
  const { token } = links[0]!;
  const listener = await (await browser.newContext()).newPage();
  await settleIn(listener, `/listen/${token}`, 'Invited Ida');

  // The engineer kept the link: on a device of another it shows nothing and takes nothing.
  const remembered = page.request;
  const view = (await (await remembered.get(`/api/listen/${token}/view`)).json()) as object;
  expect(view).toMatchObject({ phase: 'device', alias: null, clips: [], answered: 0 });
  const answer = {
    position: 1,
    answer: { choice: 'first' },
    key: '00000000-0000-4000-8000-00000000000a',
    heardS: [3, 3],
    switches: 1,
    durationS: 9,
  };
  const forged = await remembered.post(`/api/listen/${token}/answer`, { data: answer, headers });
  expect(forged.status()).toBe(401);
  // What he can do, by saying that he is her, is counted and shown to her.
  await remembered.post(`/api/listen/${token}/device`, { data: {}, headers });
  const hers = await listener.request.get(`/api/listen/${token}/view`);
  expect((await hers.json()) as object).toMatchObject({ devices: 2, answered: 0 });
  const { devices } = await one(
    query<{ devices: number }>(
      `SELECT count(*)::int AS devices FROM seat_device JOIN listener ON listener.id = listener_id
     WHERE alias = 'Invited Ida'`,
    ),
  );
  expect(devices).toBe(2);
  // Nothing in the bank gives the link back.
  const kept = await query('SELECT listener_link::text AS link FROM listener_link');
  expect(JSON.stringify(kept)).not.toContain(token);
});

test('a key that was swapped after sealing closes nothing', async ({ page }) => {
  await signIn(page);
  const { id } = await openSitting(page, [{ ...EVERY_TASK[0]!, trials: 3 }], {});
  const { comparison } = await one(
    query<{ comparison: string }>(
      'SELECT comparison_id::text AS comparison FROM sitting WHERE id = $1',
      [id],
    ),
  );
  const swap = `UPDATE trial_clip AS one SET chain_id = other.chain_id FROM trial_clip AS other
    WHERE one.sitting_id = $1 AND (other.sitting_id, other.seat, other.position)
      = (one.sitting_id, one.seat, one.position) AND other.slot = 1 - one.slot`;
  await query(swap, [id]);
  const headers = { origin: new URL(page.url()).origin };
  const close = () =>
    page.request.post(`/api/comparisons/${comparison}/sittings/${id}/close`, { headers });
  const refused = await close();
  expect(refused.status()).toBe(409);
  expect(await refused.text()).toContain('trial 1 of seat 1 is not as it was sealed');
  await query(swap, [id]);
  expect((await close()).status()).toBe(200);
});

test('the listener’s page stays light: no chain, chart or waveform code', async ({ page }) => {
  const scripts: Promise<Buffer>[] = [];
  page.on('response', (response) => {
    if (!response.url().endsWith('.js')) return;
    const script = response.body();
    // One that comes after the counting is nobody's.
    script.catch(() => undefined);
    scripts.push(script);
  });
  await page.goto(`/listen/${demo().listenerToken}`, { waitUntil: 'networkidle' });
  const bytes = (await Promise.all(scripts)).reduce((sum, body) => sum + gzipSync(body).length, 0);
  test.info().annotations.push({ type: 'script', description: `${bytes} bytes, gzip` });
  expect(bytes).toBeGreaterThan(20_000);
  expect(bytes).toBeLessThanOrEqual(200_000);
});

test('the engineer cannot look before closing', async ({ page }) => {
  await signIn(page);
  const { id, comparison } = await one(
    query<{ id: string; comparison: string }>(
      `SELECT id::text, comparison_id::text AS comparison FROM sitting WHERE state = 'open' LIMIT 1`,
    ),
  );
  const { nonce } = await one(
    query<{ nonce: string }>(
      `SELECT sealed_key::json->>'nonce' AS nonce FROM sitting WHERE id = $1`,
      [id],
    ),
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

import { createHash } from 'node:crypto';
import net from 'node:net';
import { expect, test, type Page } from '@playwright/test';
import { demo, query, settleIn, signIn, startComparison, step } from './bank';

/** Samples of a 24-bit mono WAV with the plain header. */
function samplesOf(bytes: Buffer): Float64Array {
  return Float64Array.from(
    { length: (bytes.length - 44) / 3 },
    (_, n) => bytes.readIntLE(44 + 3 * n, 3) / 8388608,
  );
}

/**
 * Whatever goes to the loudspeakers also goes through a recorder, in the thread that makes the
 * sound: a recorder in the page's own thread loses blocks whenever the page is busy.
 */
async function recordSpeakers(page: Page) {
  await page.addInitScript(() => {
    const recorded: number[] = [];
    Object.assign(window, { recorded });
    const prototype = AudioNode.prototype as { connect: (target: AudioNode) => AudioNode };
    const { connect } = prototype;
    const recorderCode = `registerProcessor('recorder', class extends AudioWorkletProcessor {
      process([[channel]]) {
        this.port.postMessage(channel ? channel.slice() : new Float32Array(128));
        return true;
      }
    });`;
    const address = URL.createObjectURL(new Blob([recorderCode], { type: 'text/javascript' }));
    const taps = new WeakMap<BaseAudioContext, AudioNode>();
    const loaded = new WeakMap<BaseAudioContext, Promise<void>>();
    // No sound begins before the recorder is there.
    const { resume } = AudioContext.prototype as { resume: (this: AudioContext) => Promise<void> };
    AudioContext.prototype.resume = async function () {
      await loaded.get(this);
      await resume.call(this);
    };
    prototype.connect = function (this: AudioNode, target: AudioNode) {
      if (!(target instanceof AudioDestinationNode)) return connect.call(this, target);
      const { context } = this;
      let tap = taps.get(context);
      if (!tap) {
        const through = context.createGain();
        connect.call(through, target);
        const recording = context.audioWorklet.addModule(address).then(() => {
          const recorder = new AudioWorkletNode(context, 'recorder', {
            channelCount: 1,
            channelCountMode: 'explicit',
          });
          recorder.port.onmessage = ({ data }: MessageEvent<Float32Array>) => {
            for (const x of data) recorded.push(x);
          };
          connect.call(through, recorder);
          // A node that leads nowhere is not asked for its sound; it gives silence itself.
          connect.call(recorder, target);
        });
        loaded.set(context, recording);
        taps.set(context, (tap = through));
      }
      return connect.call(this, tap);
    };
  });
}

interface Recorded {
  recorded: number[];
}

/** Waits until so many more seconds of sound were made, however slow the machine. */
async function hear(page: Page, seconds: number) {
  const length = () => (window as unknown as Recorded).recorded.length;
  const from = await page.evaluate(length);
  await expect.poll(() => page.evaluate(length)).toBeGreaterThan(from + seconds * 48000);
}

test.describe(() => {
  // The recorder is not a script of the product's own.
  test.use({ bypassCSP: true });

  test('clips run in step: a switch goes on at the same sample, without a gap or a bump', async ({
    page,
  }) => {
    await recordSpeakers(page);
    const bodies = new Map<string, Buffer>();
    page.on('response', (response) => {
      if (/\/clip\/(?!settling)/.test(response.url())) {
        // Clips of later pairs may still be on their way when the test ends.
        const late = () => undefined;
        void response.body().then((body) => bodies.set(response.url(), body), late);
      }
    });
    await settleIn(page, `/listen/${demo().listenerToken}`, 'Recording Rita');
    await expect(page.getByText('Pair 1 of 6')).toBeVisible();
    // Clips arrive in any order; the view says which is first.
    const view = await page.request.get(`/api/listen/${demo().listenerToken}/view`);
    const { clips } = (await view.json()) as { clips: { address: string }[] };
    const bodyOf = (address: string) =>
      [...bodies].find(([url]) => url.endsWith(address))?.[1] ?? Buffer.alloc(0);
    await expect.poll(() => clips.every(({ address }) => bodyOf(address).length > 44)).toBe(true);
    const [a, b] = clips.map(({ address }) => samplesOf(bodyOf(address)));
    await page.evaluate(() => (window as unknown as Recorded).recorded.splice(0));
    await page.keyboard.press('1');
    await hear(page, 1.3);
    await page.keyboard.press('2');
    await hear(page, 1.3);
    await page.keyboard.press(' ');
    const recorded = await page.evaluate(() => (window as unknown as Recorded).recorded);

    // Where does clip a begin in the recording? At its first sample that is not silence.
    const start = recorded.findIndex((x) => x !== 0);
    expect(start).toBeGreaterThanOrEqual(0);
    const first = a!.findIndex((x) => Math.fround(x) !== 0);
    const at = (n: number) => recorded[start - first + n]!;
    const same = (n: number, clip: Float64Array) => Math.abs(at(n) - clip[n]!) < 1e-6;
    let n = first;
    while (n < a!.length && same(n, a!)) n++;
    const left = n;
    expect(left - first).toBeGreaterThan(48000 * 0.8);
    // Within the crossfade every sample is a mixture whose weights add up to one.
    const length = 48000 * 0.008;
    let reached = left;
    while (reached < left + 2 * length && !(same(reached, b!) && same(reached + 50, b!))) reached++;
    expect(reached - left).toBeGreaterThan(length * 0.5);
    expect(reached - left).toBeLessThanOrEqual(length + 256);
    let outside = 0;
    for (let m = left; m < reached; m++) {
      const [low, high] = [Math.min(a![m]!, b![m]!), Math.max(a![m]!, b![m]!)];
      if (at(m) < low - 1e-6 || at(m) > high + 1e-6) outside++;
    }
    expect(outside).toBe(0);
    // After it, clip b at the very place where clip a would have been.
    let other = 0;
    for (let m = reached; m < reached + 24000; m++) if (!same(m, b!)) other++;
    expect(other).toBe(0);
  });
});

test('the loop can be set by keyboard, and holds', async ({ page }) => {
  await settleIn(page, `/listen/${demo().listenerToken}`, 'Looping Lou');
  await expect(page.getByText('Pair 1 of 6')).toBeVisible();
  const ends = page.getByRole('slider', { name: 'Loop ends' });
  const begins = page.getByRole('slider', { name: 'Loop begins' });
  await expect(ends).toHaveAttribute('aria-valuenow', '7.5');
  for (let i = 0; i < 26; i++) await ends.press('ArrowLeft');
  for (let i = 0; i < 50; i++) await begins.press('ArrowRight');
  await expect(ends).toHaveAttribute('aria-valuenow', '1');
  // Never shorter than half a second.
  await expect(begins).toHaveAttribute('aria-valuenow', '0.5');
  await page
    .getByRole('button', { name: /^Hear / })
    .first()
    .click();
  await page.waitForTimeout(2500);
  await expect(page.getByRole('button', { name: /^Hear / }).first()).toContainText('sounding');
});

test('takes stream in ranges, and clips have their length', async ({ page }) => {
  await signIn(page);
  await page.getByRole('link', { name: 'Contralto, which chain?' }).click();
  await step(page, 'Takes').click();
  // The demo's sitting is open over these takes.
  await page.getByRole('button', { name: 'Play Kern40_Linie2_take1.wav' }).click();
  const [request] = await Promise.all([
    page.waitForRequest(/\/audio\?/),
    page.getByRole('button', { name: 'Listen by name all the same' }).click(),
  ]);
  const whole = await page.request.get(request.url());
  const part = await page.request.get(request.url(), { headers: { range: 'bytes=1000-1999' } });
  expect(part.status()).toBe(206);
  const body = await whole.body();
  expect(whole.headers()['content-length']).toBe(String(body.length));
  expect(part.headers()['content-range']).toBe(`bytes 1000-1999/${body.length}`);
  expect((await part.body()).equals(body.subarray(1000, 2000))).toBe(true);
  const beyond = await page.request.get(request.url(), {
    headers: { range: `bytes=${body.length}-` },
  });
  expect(beyond.status()).toBe(416);
});

/** Asks for everything over one connection and takes nothing yet. @returns how to have the bodies */
function askSlowly(base: URL, paths: readonly string[], cookie: string): () => Promise<Buffer[]> {
  const socket = net.connect(Number(base.port), base.hostname);
  socket.pause();
  socket.write(
    paths
      .map((path) => `GET ${path} HTTP/1.1\r\nHost: ${base.host}\r\nCookie: ${cookie}\r\n\r\n`)
      .join(''),
  );
  return async () => {
    const bodies: Buffer[] = [];
    let waiting: Buffer = Buffer.alloc(0);
    for await (const part of socket as AsyncIterable<Buffer>) {
      waiting = Buffer.concat([waiting, part]);
      for (;;) {
        const head = waiting.indexOf('\r\n\r\n');
        const length = /content-length: (\d+)/i.exec(waiting.subarray(0, head).toString('latin1'));
        const end = head + 4 + Number(length?.[1]);
        if (head < 0 || !length || waiting.length < end) break;
        bodies.push(waiting.subarray(head + 4, end));
        waiting = waiting.subarray(end);
      }
      if (bodies.length === paths.length) break;
    }
    return bodies;
  };
}

test('clips asked for at once keep their bytes, for who reads slowly and where others break off', async ({
  page,
}) => {
  await signIn(page);
  const paths = (
    await query<{ path: string }>(
      `SELECT '/api/comparisons/' || clip_set.comparison_id || '/clips/' || clip_set.id || '/' || chain_id || '?insist=yes' AS path
       FROM clip JOIN clip_set ON clip_set.id = clip_set_id
       WHERE clip_set_id = (SELECT id FROM clip_set WHERE state = 'ready' ORDER BY created_at LIMIT 1)`,
    )
  ).map(({ path }) => path);
  expect(paths.length).toBeGreaterThan(3);
  const ROUNDS = 6;
  const often = Array.from({ length: ROUNDS }, () => paths).flat();
  // Of one who takes nothing yet no more may wait than are made for anybody.
  const slowly = often.slice(0, 2 * paths.length);
  const digest = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');
  const alone: string[] = [];
  for (const path of paths) alone.push(digest(await (await page.request.get(path)).body()));
  expect(new Set(alone).size).toBe(paths.length);
  const wanted = Array.from({ length: ROUNDS }, () => alone).flat();

  const cookies = await page.context().cookies();
  const cookie = cookies.map(({ name, value }) => `${name}=${value}`).join('; ');
  const take = askSlowly(new URL(page.url()), slowly, cookie);
  // Far more than a connection holds is waiting now; what others ask for must not get into it.
  const crowd = await page.evaluate(async (asked) => {
    const breakOff = async (path: string) => {
      const stop = new AbortController();
      const response = await fetch(path, { signal: stop.signal });
      await response.body?.getReader().read();
      stop.abort();
    };
    return Promise.all(
      asked.map(async (path, i) => {
        if (i % 4 === 3) await breakOff(path);
        const bytes = await (await fetch(path)).arrayBuffer();
        const made = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
        return Array.from(made, (byte) => byte.toString(16).padStart(2, '0')).join('');
      }),
    );
  }, often);
  expect(crowd).toEqual(wanted);
  expect((await take()).map(digest)).toEqual(wanted.slice(0, slowly.length));
});

test('two windows: the later change is told, and what was typed stays', async ({
  page,
  context,
}) => {
  await signIn(page);
  await startComparison(page, 'Two windows', 'Cello', 'end');
  await step(page, 'Question').click();
  await expect(page.getByLabel('Title')).toHaveValue('Two windows');
  const other = await context.newPage();
  await other.goto(page.url());
  // The fields are the page's own once its script runs.
  await expect(other.getByRole('button', { name: 'Lamplight' })).toBeVisible();
  await page.getByLabel('Passage').fill('typed in window one');
  await page.getByLabel('Passage').press('ArrowLeft');
  await other.getByLabel('Title').fill('Renamed in window two');
  await other.getByRole('button', { name: 'Save' }).click();
  const renamed = { name: 'Renamed in window two', level: 1 };
  await expect(other.getByRole('heading', renamed)).toBeVisible();
  // Window one follows by itself, but not over what is being typed.
  await expect(page.getByRole('heading', renamed)).toBeVisible();
  await expect(page.getByLabel('Passage')).toHaveValue('typed in window one');
  await expect(page.getByLabel('Passage')).toBeFocused();
  expect(
    await page.getByLabel('Passage').evaluate((field: HTMLInputElement) => field.selectionStart),
  ).toBe('typed in window one'.length - 1);
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Title')).toHaveValue('Renamed in window two');
  await expect(page.getByLabel('Passage')).toHaveValue('typed in window one');
});

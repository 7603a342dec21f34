import { setTimeout as after } from 'node:timers/promises';
import { expect, type Page, type Response } from '@playwright/test';
import { query } from './bank';

export interface Received {
  url: string;
  /** From asking to the last byte. */
  tookMs: number;
  headers: Record<string, string>;
  body: Buffer;
}

/** Header fields that belong to the moment or the connection. */
const OF_THE_MOMENT = ['date', 'connection', 'keep-alive'];

/** How long the last word on a response may take once its bytes are there. */
const LAST_WORD_MS = 5000;

/**
 * What is said of a response; of one that a page left behind when it was loaded anew the browser
 * may never say the last word, and then what is known stands.
 */
const said = <T>(last: Promise<T>, known: T): Promise<T> =>
  Promise.race([last, after(LAST_WORD_MS, known, { ref: false })]);

/** Everything that a page receives from now on. @returns how to have it, once all has arrived */
export function collect(page: Page): () => Promise<Received[]> {
  const received: Received[] = [];
  const pending: Promise<void>[] = [];
  page.on('response', (response: Response) => {
    const arriving = async () => {
      const body = await response.body().catch(() => Buffer.alloc(0));
      await said(response.finished(), null);
      const { requestStart, responseEnd } = response.request().timing();
      received.push({
        url: response.url(),
        tookMs: responseEnd - requestStart,
        headers: await said(response.allHeaders(), response.headers()),
        body,
      });
    };
    const arrival = arriving();
    // Whoever searches hears of a failure; what breaks off afterwards, at the end of a test, is nobody's.
    arrival.catch(() => undefined);
    pending.push(arrival);
  });
  return async () => {
    await Promise.all(pending);
    return received;
  };
}

/** What must not be there: everything that the bank knows of chains, takes and clips. */
export async function secretsOfBank(): Promise<string[]> {
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
  return secrets;
}

const FIGURE = /^-?\d+(\.\d+)?$/;

/** A figure stands by itself: the seconds of a moment, 25.393, do not hold the gain 5.39. */
function holds(text: string, secret: string): boolean {
  if (!FIGURE.test(secret)) return text.includes(secret);
  return new RegExp(`(?<![\\d.])${secret.replace('.', '\\.')}(?!\\d)`).test(text);
}

/** Searches addresses, headers and texts, and the beginnings of sounds. */
export function expectNothingTold(received: readonly Received[], secrets: readonly string[]): void {
  const told = received.filter(({ url }) => !url.includes('/_next/static/'));
  const leaks = told.flatMap(({ url, headers, body }) => {
    const isSound = url.includes('/clip/');
    const text = `${url}\n${JSON.stringify(headers)}\n${isSound ? body.subarray(0, 200).toString('latin1') : body.toString()}`;
    return secrets.filter((secret) => holds(text, secret)).map((secret) => `${secret} in ${url}`);
  });
  expect(leaks).toEqual([]);
}

/** The sounds of trials. */
export const soundsOf = (received: readonly Received[]) =>
  received.filter(({ url }) => /\/clip\/(?!settling)/.test(url));

/** What a network shows of a sound but its samples; the same for every clip of a sitting. */
export const shapeOf = ({ headers, body }: Received) =>
  JSON.stringify([
    Object.entries(headers)
      .filter(([name]) => !OF_THE_MOMENT.includes(name))
      .sort(),
    body.length,
    body.subarray(0, 44).toString('hex'),
  ]);

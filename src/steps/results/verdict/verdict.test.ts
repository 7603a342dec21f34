import { sha256Hex } from '@/core/design/seal';
import { measure } from '@/core/loudness/meter';
import { decodeWav } from '@/core/wav/read';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { closeSitting } from '@/steps/sitting/service';
import { analysed, answeredSitting } from '@/steps/test/answered';
import { bankWithClips, CHAIN_NAMES, openTestSitting } from '@/steps/test/bank';
import { verdictFile } from '@/worker/tasks';
import { resultsOf } from '../service';
import type { VerdictJob } from './job';
import { verdictHtml } from './service';

withTestDatabase();

const PANEL = ['Ada Linde', 'Ben Torv', 'Cleo Marr', 'Dag Ims', 'Ellen Ruud', 'Finn Hoel'];
const QUESTION = 'Which suits </script><script>alert(1)</script> & "better"?';

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
let sittingId: string;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
  const [a, b, c] = bank.chainIds as [string, string, string];
  sittingId = await answeredSitting(engineer, bank.comparisonId, {
    aliases: PANEL,
    liking: (listener) => (listener === 5 ? [b, a, c] : [c, a, b]),
    parts: [{ prompt: QUESTION }],
  });
  await analysed(sittingId);
});

const made = (makes: (job: VerdictJob) => Promise<string> = verdictFile) =>
  verdictHtml(engineer, bank.comparisonId, sittingId, makes);

const between = (body: string, from: string, to: string) =>
  body.slice(body.indexOf(from) + from.length).split(to)[0]!;
const plain = (html: string) =>
  html
    .replaceAll('&quot;', '"')
    .replaceAll('&#x27;', "'")
    .replaceAll('&lt;', '<')
    .replaceAll('&gt;', '>')
    .replaceAll('&amp;', '&');

it('holds the result, its key and its seal, and names no listener', async () => {
  const { fileName, contentType, body } = await made();
  expect(fileName).toBe(`verdict-${sittingId.slice(0, 8)}.html`);
  expect(contentType).toContain('text/html');
  expect(body.startsWith('<!DOCTYPE html><html lang="en">')).toBe(true);
  const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
  expect(plain(body)).toContain(result!.across!.answers.liked.sentence);
  for (const limit of result!.across!.limits) expect(plain(body)).toContain(limit);
  expect(body).toContain(result!.seal);
  const key = plain(between(body, 'id="key-text" class="mono">', '</pre>'));
  expect(await sha256Hex(key)).toBe(result!.seal);
  for (const name of PANEL) expect(body).not.toContain(name);
});

it('asks for nothing from outside, and runs nothing that was typed', async () => {
  const { body } = await made();
  expect(plain(body)).toContain("default-src 'none'");
  // Nothing but the name of the drawing language's own space could be an address.
  expect(body.replaceAll('http://www.w3.org/2000/svg', '')).not.toMatch(
    /<[^>]+\s(src|href)=|https?:\/\//,
  );
  expect(body).not.toContain('<script>alert');
  expect(plain(body)).toContain(QUESTION);
});

it('carries the two that stood first, equally loud within 0.05 LU on their bytes', async () => {
  const { body } = await made();
  const [names] = /\["[^\]]*"\]/.exec(between(body, 'id="pair-names"', '</script>'))!;
  expect(JSON.parse(names)).toEqual([CHAIN_NAMES[2], CHAIN_NAMES[0]]);
  const clips = [0, 1].map((i) =>
    Buffer.from(between(body, `id="clip-${i}" type="text/plain">`, '</script>'), 'base64'),
  );
  const levels = [];
  for (const clip of clips) {
    const { header, channels } = await decodeWav(clip);
    levels.push(measure(channels, header.format).integratedLufs!);
  }
  expect(Math.abs(levels[0]! - levels[1]!)).toBeLessThan(0.05);
  // Of one length, so that a switch goes on at the same place.
  expect(clips[0]!.length).toBe(clips[1]!.length);
  expect(Buffer.byteLength(body)).toBeLessThan(10e6);
});

it('leaves the sound away where it would grow too large, and says so', async () => {
  const { body } = await made((job) =>
    verdictFile({ ...job, clips: Array.from({ length: 60 }, () => job.clips[0]!) }),
  );
  expect(body).toContain('too long for a file of less than 10 MB');
  expect(body).not.toContain('id="clip-0"');
  expect(Buffer.byteLength(body)).toBeLessThan(1e6);
});

it('is not made of what is open, unread, or answered by nobody; nor for strangers', async () => {
  const { sittingId: open } = await openTestSitting(engineer, bank.comparisonId);
  const of = (id: string, who = engineer) => verdictHtml(who, bank.comparisonId, id, verdictFile);
  await expect(of(open)).rejects.toMatchObject({ status: 404 });
  await closeSitting(engineer, bank.comparisonId, open, NOON);
  await expect(of(open)).rejects.toThrow('still being read');
  await analysed(open);
  await expect(of(open)).rejects.toThrow('Nobody answered');
  await expect(of(sittingId, await testEngineer('Stranger'))).rejects.toMatchObject({
    status: 404,
  });
});

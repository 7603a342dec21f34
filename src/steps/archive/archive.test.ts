import { createHash } from 'node:crypto';
import { PassThrough } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { unzipSync } from 'fflate';
import Papa from 'papaparse';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { chainsOf } from '@/steps/chains/service';
import { closeSitting } from '@/steps/sitting/service';
import { analysed, answeredSitting } from '@/steps/test/answered';
import { bankWithClips, CHAIN_NAMES, openTestSitting, takeBytes } from '@/steps/test/bank';
import { archiveOf } from './service';
import { writeArchive } from './write';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
let files: Record<string, Uint8Array>;

const unzipped = async (): Promise<Record<string, Uint8Array>> => {
  const out = new PassThrough();
  const whole = buffer(out);
  await writeArchive(await archiveOf(engineer, bank.comparisonId, NOON), out);
  return unzipSync(await whole);
};
const text = (name: string) => Buffer.from(files[name] ?? []).toString('utf8');
const rows = (name: string) =>
  Papa.parse<Record<string, string>>(text(name), { header: true, skipEmptyLines: true }).data;
const sha256 = (bytes: Uint8Array | undefined) =>
  createHash('sha256')
    .update(bytes ?? '')
    .digest('hex');

beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
  const sittingId = await answeredSitting(engineer, bank.comparisonId, {
    aliases: ['a', 'b', 'c', 'd', 'e'],
    liking: bank.chainIds,
    change: { title: 'Clarinet: a/b' },
  });
  await analysed(sittingId);
  files = await unzipped();
});

it('holds every recording as it arrived, with its number', () => {
  const takes = rows('takes.csv');
  expect(takes.map(({ chain }) => chain).sort()).toEqual([...CHAIN_NAMES].sort());
  for (const { file, sha256: number } of takes) expect(sha256(files[file!])).toBe(number);
  // The very bytes that were delivered.
  expect(takes.map(({ sha256: number }) => number)).toContain(sha256(takeBytes(0)));
});

it('holds the seal exactly as it was, and the clips that it names', () => {
  const key = text('sittings/Clarinet- a-b/key.json');
  const { chains } = JSON.parse(key) as { chains: { name: string }[] };
  expect(chains.map(({ name }) => name).sort()).toEqual([...CHAIN_NAMES].sort());
  const clips = rows('clips.csv');
  expect(clips).toHaveLength(3);
  for (const { file, sha256: number } of clips) {
    expect(sha256(files[file!])).toBe(number);
    expect(key).toContain(number);
    expect(Buffer.from(files[file!]!.subarray(0, 4)).toString()).toBe('RIFF');
  }
  const matched = clips.map((row) => Number(row['loudness, LUFS']));
  expect(Math.max(...matched) - Math.min(...matched)).toBeLessThan(0.05);
});

it('holds answers, analysis and what is needed to understand them', async () => {
  expect(rows('sittings/Clarinet- a-b/answers.csv').length).toBe(15);
  expect(JSON.parse(text('sittings/Clarinet- a-b/analysis.json'))).toHaveProperty('parts');
  const whole = JSON.parse(text('comparison.json')) as Record<string, unknown>;
  expect(whole).toMatchObject({ format: 'zeitbank comparison 1', title: 'Clarinet' });
  const names = (await chainsOf(engineer, bank.comparisonId)).map(({ name }) => ({ name }));
  expect(whole['chains']).toMatchObject(names);
  expect(text('README.txt')).toContain('sha256sum key.json');
  expect(JSON.parse(text('decisions.json'))).toMatchObject({ decisions: [] });
});

it('waits for an open sitting, and is nobody else’s', async () => {
  const stranger = await testEngineer('Looking In');
  await expect(archiveOf(stranger, bank.comparisonId, NOON)).rejects.toMatchObject({ status: 404 });
  const { sittingId } = await openTestSitting(engineer, bank.comparisonId);
  await expect(archiveOf(engineer, bank.comparisonId, NOON)).rejects.toMatchObject({
    status: 409,
    message: expect.stringContaining('Close it, then export') as string,
  });
  await closeSitting(engineer, bank.comparisonId, sittingId, NOON);
  await expect(archiveOf(engineer, bank.comparisonId, NOON)).rejects.toThrow('still being made');
});

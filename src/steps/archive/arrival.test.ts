import { createHash } from 'node:crypto';
import { PassThrough } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { CHUNK_BYTES, createAudio, writeChunk } from '@/platform/audio-store';
import { db, transaction } from '@/platform/database';
import { one } from '@/platform/one';
import { peopleOf } from '@/platform/sign-in/people';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { changeChain, chainsOf } from '@/steps/chains/service';
import { awaitArrival, comparisonOf, createComparison } from '@/steps/comparisons/service';
import { giveMarks, lockDecision } from '@/steps/decision/service';
import { addGear } from '@/steps/gear/service';
import { resultsOf } from '@/steps/results/service';
import { listSittings } from '@/steps/sitting/store';
import { receiveUpload, takesOf } from '@/steps/takes/service';
import { listArchives } from '@/steps/takes/store';
import { analysed, answeredSitting } from '@/steps/test/answered';
import { bankWithClips, CHAIN_NAMES, inThisThread, openTestSitting } from '@/steps/test/bank';
import { plainGear } from '@/steps/test/gear';
import { unpackArchive } from '@/worker/jobs/unpack-archive';
import { archiveOf } from './service';
import { writeArchive } from './write';

withTestDatabase();

type Files = Record<string, Uint8Array>;

let engineer: SignedIn;
let stranger: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
let sittingId: string;
let zip: Buffer;
let files: Files;

const exported = async (who: SignedIn, comparisonId: string): Promise<Buffer> => {
  const out = new PassThrough();
  const whole = buffer(out);
  await writeArchive(await archiveOf(who, comparisonId, NOON), out);
  return whole;
};
const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');
const text = (of: Files, name: string) => Buffer.from(of[name] ?? []).toString('utf8');

/** Sends a zip to a place that waits for it, and has it unpacked as the worker does. @returns what is said of it */
async function sent(who: SignedIn, bytes: Uint8Array, into?: string) {
  const comparisonId = into ?? (await awaitArrival(who, { fileName: 'Clarinet.zip' }, NOON));
  await transaction(async (tx) => {
    const audioId = await createAudio(tx, bytes.length, NOON);
    for (let seq = 0; seq * CHUNK_BYTES < bytes.length; seq++) {
      const part = bytes.subarray(seq * CHUNK_BYTES, (seq + 1) * CHUNK_BYTES);
      await writeChunk(tx, audioId, seq, Buffer.from(part));
    }
    await receiveUpload(tx, { comparisonId, audioId, fileName: 'Clarinet.zip' }, NOON);
  });
  const { id } = await one(
    db().rows<{ id: string }>(
      `SELECT id FROM archive WHERE comparison_id = $1 AND state = 'waiting'`,
      [comparisonId],
    ),
  );
  await unpackArchive.run(id, inThisThread, () => undefined);
  const [left] = await listArchives(db(), comparisonId);
  return { comparisonId, said: left?.remark ?? null };
}

/** The archive with some files changed, and its numbers written anew as somebody with a console would. */
function forged(change: (files: Files) => void, summed = true): Uint8Array {
  const copy = { ...files };
  change(copy);
  if (summed) {
    const lines = Object.entries(copy)
      .filter(([name]) => name !== 'SHA256SUMS')
      .map(([name, bytes]) => `${sha256(bytes)}  ${name}`);
    copy['SHA256SUMS'] = strToU8(`${lines.join('\n')}\n`);
  }
  return zipSync(copy, { level: 0 });
}
const changeRows =
  (table: string, change: (row: Record<string, unknown>) => Record<string, unknown>) =>
  (of: Files) => {
    const name = `bank/${table}.jsonl`;
    const rows = text(of, name).split('\n').filter(Boolean);
    expect(rows.length).toBeGreaterThan(0);
    const made = rows.map((row) =>
      JSON.stringify(change(JSON.parse(row) as Record<string, unknown>)),
    );
    of[name] = strToU8(`${made.join('\n')}\n`);
  };

/** The same comparison under other ids, as if it were another one. */
const fresh = (of: Files): void => {
  const turned = (id: string) => id.replace(/^.{8}/, (start) => [...start].reverse().join(''));
  for (const name of Object.keys(of).filter((name) => /^bank\/.*\.jsonl?$/.test(name))) {
    const made = text(of, name).replaceAll(/[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}/g, turned);
    of[name] = strToU8(made);
  }
  changeRows('trial_clip', (row) => ({ ...row, address: `${String(row['address'])}x` }))(of);
};

beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
  const { comparisonId, chainIds } = bank;
  const gearId = await addGear(engineer, plainGear('Kern 40'), NOON);
  const [first] = await chainsOf(engineer, comparisonId);
  const { id, ...chain } = first!;
  await changeChain(engineer, comparisonId, id, { ...chain, gear: [{ gearId, settings: {} }] });
  sittingId = await answeredSitting(engineer, comparisonId, {
    aliases: ['a', 'b', 'c', 'd', 'e', 'f'],
    liking: chainIds,
    change: { title: 'Clarinet: a/b' },
  });
  await analysed(sittingId);
  const mark = {
    of: 'chain',
    id: chainIds[0]!,
    criterion: 'build',
    value: '4',
    remark: '',
  } as const;
  await giveMarks(engineer, comparisonId, [mark], NOON);
  const draft = {
    uses: [{ use: 'clarinet', verdict: 'chosen', chainId: chainIds[0]! }],
    reasons: [{ text: 'Liked by all.', rests: 'heard' }],
    wouldChange: 'another room',
    decidedBy: 'Mirela Voss',
    listenAgain: '2027-03-14',
  } as const;
  const order = {
    draft: { ...draft, uses: [...draft.uses], reasons: [...draft.reasons] },
    version: 0,
    sittingId,
  };
  await lockDecision(engineer, comparisonId, order, NOON);
  zip = await exported(engineer, comparisonId);
  files = unzipSync(zip);
  // From here on this is another bank, whose owner came later.
  await db().rows('TRUNCATE comparison, gear, audio CASCADE');
  await db().rows(`UPDATE account SET name = 'somebody else'`);
  stranger = await testEngineer('Tove Lindqvist');
});

it('numbers every file in it', () => {
  const lines = text(files, 'SHA256SUMS').trim().split('\n');
  expect(lines).toHaveLength(Object.keys(files).length - 1);
  for (const line of lines) {
    const [number, name] = line.split('  ');
    expect(sha256(files[name!]!)).toBe(number);
  }
});

it.each([
  [
    'damaged on its way',
    () => Buffer.from(zip).fill(0, 5000, 6000),
    /damaged or cut short|not as it was written/,
  ],
  [
    'with damaged sound',
    () => {
      const at = zip.indexOf('RIFF') + 20_000;
      return Buffer.from(zip).fill(1, at, at + 100);
    },
    /damaged or cut short|not as it was written/,
  ],
  ['cut short', () => zip.subarray(0, zip.length - 5000), /damaged or cut short/],
  [
    'with a row that was changed',
    () =>
      forged(
        changeRows('answer', (row) => ({ ...row, hasty: true })),
        false,
      ),
    /bank\/answer\.jsonl is not as it was written/,
  ],
  [
    'with another sound under an old number',
    () => forged((of) => (of['takes/Kern 40.wav'] = of['takes/Halde T2.wav']!)),
    /takes\/Kern 40\.wav is not as it was written/,
  ],
  [
    'with a column that nobody knows',
    () => forged(changeRows('chain', (row) => ({ ...row, colour: 'red' }))),
    /chain of this version has no “colour”/,
  ],
  [
    'with JSON that no page could read',
    () => forged(changeRows('take', (row) => ({ ...row, facts: { version: 1 } }))),
    /“facts” of take is not what this version reads/,
  ],
  [
    'of a newer version',
    () =>
      forged((of) => {
        const manifest = JSON.parse(text(of, 'bank/manifest.json')) as object;
        of['bank/manifest.json'] = strToU8(JSON.stringify({ ...manifest, schema: '9999_later' }));
      }),
    /written by a newer version/,
  ],
  [
    'with answers of nobody',
    () => forged(changeRows('answer', (row) => ({ ...row, seat: 77 }))),
    /do not fit one another/,
  ],
])('refuses one %s, and keeps nothing of it', async (_, made, why) => {
  const { comparisonId, said } = await sent(stranger, made());
  expect(said).toMatch(/^This archive cannot be (used|imported): .*\. Nothing of it was kept\.$/);
  expect(said).toMatch(why);
  expect(await takesOf(stranger, comparisonId)).toEqual([]);
  expect(await db().rows('SELECT 1 FROM gear UNION ALL SELECT 1 FROM sitting')).toEqual([]);
  // Only the zip itself, which can be fetched no more but deleted, is stored.
  expect(await db().rows('SELECT 1 FROM audio WHERE sha256 IS NOT NULL')).toEqual([]);
});

describe('a whole comparison', () => {
  let comparisonId: string;

  beforeAll(async () => {
    const arrived = await sent(stranger, zip);
    expect(arrived.said).toBeNull();
    ({ comparisonId } = arrived);
    for (const { id } of await listSittings(db(), comparisonId)) await analysed(id);
  });

  it('is exported again as the same files', async () => {
    const again = unzipSync(await exported(stranger, comparisonId));
    expect(Object.keys(again).sort()).toEqual(Object.keys(files).sort());
    // Those name the ids of sound and people, which are another bank’s.
    const own =
      /^(SHA256SUMS|README\.txt|bank\/(manifest\.json|(comparison|take|clip|clip_set|settling_clip|sitting|source|passage|chain|run_line|part|mark|decision|gear)\.jsonl))$/;
    for (const name of Object.keys(files).filter((name) => !own.test(name))) {
      expect([name, sha256(again[name]!)]).toEqual([name, sha256(files[name]!)]);
    }
    expect(text(again, 'sittings/Clarinet- a-b/key.json')).toContain('zeitbank sealed key 3');
  });

  it('has its seal intact, and its answers read', async () => {
    const { result } = await resultsOf(stranger, comparisonId, sittingId);
    expect(result).toMatchObject({ listeners: 6, sealHolds: true });
    expect(await comparisonOf(stranger, comparisonId)).toMatchObject({ title: 'Clarinet' });
    const [first] = await chainsOf(stranger, comparisonId);
    expect(first).toMatchObject({ name: CHAIN_NAMES[0], gear: [{ settings: {} }] });
  });

  it('can be gone on with: a sitting over its clips opens', async () => {
    await openTestSitting(stranger, comparisonId);
  });

  it('names who wrote in it, of whom nobody has access', async () => {
    const [mark] = await db().rows<{ name: string }>(
      'SELECT account.name FROM mark JOIN account ON account.id = account_id',
    );
    expect(mark).toEqual({ name: 'Mirela Voss' });
    const { people } = await peopleOf(stranger, NOON);
    expect(people.map(({ name }) => name)).toEqual(['Tove Lindqvist']);
  });

  it('comes only once, and only into a place that is empty', async () => {
    const twice = await sent(stranger, zip);
    expect(twice.said).toContain('it is in this bank already, as “Clarinet”');
    // Nor over a question that somebody wrote.
    const draft = { title: 'Mine', question: 'Which?', sourceName: 'Lute', passageName: 'all' };
    const mine = await createComparison(stranger, draft, NOON);
    const beside = await sent(stranger, forged(fresh), mine);
    expect(beside.said).toContain('it is a whole comparison, and comes into no other');
    expect(await comparisonOf(stranger, mine)).toMatchObject({ title: 'Mine', question: 'Which?' });
    expect(await takesOf(stranger, comparisonId)).toHaveLength(CHAIN_NAMES.length);
  });

  it('puts nothing into what is somebody else’s', async () => {
    const before = await db().rows('SELECT count(*) AS n FROM mark');
    const intruding = forged((of) => {
      fresh(of);
      changeRows('mark', (row) => ({ ...row, chain_id: bank.chainIds[1] }))(of);
    });
    const { said } = await sent(stranger, intruding);
    expect(said).toContain('rows of mark belong to something else');
    expect(await db().rows('SELECT count(*) AS n FROM mark')).toEqual(before);
  });

  it('keeps gear apart that has only its name in common', async () => {
    const { comparisonId: other, said } = await sent(stranger, forged(fresh));
    expect(said).toBeNull();
    const gear = await db().rows<{ name: string }>('SELECT name FROM gear ORDER BY name');
    expect(gear.map(({ name }) => name)).toEqual(['Kern 40', 'Kern 40 (elsewhere)']);
    const [own] = await chainsOf(stranger, comparisonId);
    const [first] = await chainsOf(stranger, other);
    expect(first!.gear[0]!.gearId).not.toBe(own!.gear[0]!.gearId);
  });
});

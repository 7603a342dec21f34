import { randomUUID } from 'node:crypto';
import { readFileSync, statfsSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Uint8ArrayReader, Uint8ArrayWriter, ZipWriter } from '@zip.js/zip.js';
import { zipSync } from 'fflate';
import { sine, xorshiftNoise } from '@/core/test/signals';
import { decodeWav } from '@/core/wav/read';
import { encodeWav } from '@/core/wav/write';
import { audioLength, audioSource, createAudio, writeChunk } from '@/platform/audio-store';
import { db, transaction } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { one } from '@/platform/one';
import { addChain, changeChain, chainsOf } from '@/steps/chains/service';
import { inspectTake, relateTakes, unpackArchive } from '@/worker/tasks';
import {
  changeComparison,
  comparisonOf,
  createComparison,
  sourceOf,
} from '@/steps/comparisons/service';
import { takesOfPassage } from '@/steps/match/store';
import { listPassages } from '@/steps/comparisons/store';
import {
  bankWithTakes,
  CHAIN_NAMES,
  deliverTake,
  inspected,
  markPassage,
  takeBytes,
} from '@/steps/test/bank';
import {
  archiveToUnpack,
  changeTakes,
  copyWithTakes,
  failArchive,
  giveUpInspection,
  keepMeasuredAgain,
  keepAlignments,
  keepUnpacked,
  makeChainsOfNames,
  overrideCheck,
  pickOne,
  pickPerformance,
  receiveUpload,
  alignmentOrder,
  removeArchive,
  removeChain,
  removeTake,
  splitTake,
  staleTake,
  takesOf,
  reserveSpace,
  tidyUploads,
} from './service';
import { provedSoFar, takesViewOf } from './takes-view';
import { FACTS_VERSION } from './facts';
import { type TakesChange, takesQuery } from './schema';
import {
  advanceUpload,
  findTake,
  insertTake,
  insertUpload,
  listArchives,
  listTakes,
  promisedBytes,
} from './store';

withTestDatabase();

let engineer: SignedIn;
let stranger: SignedIn;
let comparisonId: string;
let chainIds: string[];

beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  stranger = await testEngineer('Somebody Else');
  ({ comparisonId, chainIds } = await bankWithTakes(engineer));
});

describe('takes', () => {
  it('are inspected and go to the chain that their name says', async () => {
    const takes = await takesOf(engineer, comparisonId);
    const chainOf = (name: string) => takes.find((t) => t.fileName === `${name}.wav`)?.chainId;
    expect(CHAIN_NAMES.map(chainOf)).toEqual(chainIds);
    for (const take of takes) {
      expect(take.state).toBe('ready');
      expect(take.facts).toMatchObject({ sampleRateHz: 16000, channels: 1, bitDepth: 24 });
      expect(take.checks).toEqual([]);
    }
  });

  it('come once: the same recording again is a remark, and stores no second copy', async () => {
    const sizes = () => db().rows('SELECT id FROM audio');
    const before = (await sizes()).length;
    await deliverTake(comparisonId, 'copy of Kern 40.wav', takeBytes(0));
    const copy = (await takesOf(engineer, comparisonId)).find((take) => take.state === 'duplicate');
    expect(copy?.remark).toContain('Kern 40.wav');
    expect((await sizes()).length).toBe(before);
    await removeTake(engineer, comparisonId, copy?.id ?? '', NOON);
    expect((await takesOf(engineer, comparisonId)).filter((t) => t.state === 'ready').length).toBe(
      3,
    );
  });

  it('that are no WAV are refused in a sentence, and kept out of chains', async () => {
    const id = await deliverTake(
      comparisonId,
      'notes 🎼.wav',
      Buffer.from('Dear diary, no sound here'),
    );
    const take = (await takesOf(engineer, comparisonId)).find((t) => t.id === id);
    expect(take).toMatchObject({ state: 'refused', chainId: null });
    expect(take?.remark).toMatch(/cannot be used: this is not a WAV file.*at byte 0/);
    await expect(
      changeTakes(engineer, comparisonId, { takeIds: [id], chainId: chainIds[0] }, NOON),
    ).rejects.toMatchObject({ status: 409 });
    await removeTake(engineer, comparisonId, id, NOON);
  });

  it('can be moved, several at once; a chain may hold several, and one is picked', async () => {
    const takes = await takesOf(engineer, comparisonId);
    const [first, second] = chainIds.map(
      (chain) => takes.find(({ chainId }) => chainId === chain) ?? takes[0],
    );
    const change = (takeIds: string[], what: Partial<TakesChange>) =>
      changeTakes(engineer, comparisonId, { takeIds, ...what }, NOON);
    const used = async () =>
      (await takesOfPassage(db(), comparisonId, passageId, [])).fitting.map(({ takeId }) => takeId);
    const { id: passageId } = await one(listPassages(db(), comparisonId));
    await change([first!.id], { chainId: chainIds[1] });
    const after = await takesOf(engineer, comparisonId);
    expect(after.filter(({ chainId }) => chainId === chainIds[1]).length).toBe(2);
    // One of them is used, until the other is picked.
    const isUsed = (await used()).includes(first!.id) ? first! : second!;
    const other = isUsed === first ? second! : first!;
    await pickOne(engineer, comparisonId, other.id);
    expect(await used()).toContain(other.id);
    expect(await used()).not.toContain(isUsed.id);
    await change([first!.id, second!.id], { newChainName: 'Somewhere new' });
    const chains = await chainsOf(engineer, comparisonId);
    const fresh = chains.find(({ name }) => name === 'Somewhere new');
    const moved = await takesOf(engineer, comparisonId);
    expect(moved.filter(({ chainId }) => chainId === fresh?.id).length).toBe(2);
    await change([first!.id], { chainId: chainIds[0], programme: 'off-axis', detail: '90' });
    expect(await used()).not.toContain(first!.id);
    await change([first!.id], { programme: 'performance', detail: '' });
    await change([second!.id], { chainId: chainIds[1] });
    await expect(change([first!.id], { sourceId: randomUUID() })).rejects.toMatchObject({
      status: 404,
    });
  });
});

describe('files with several channels', () => {
  it('are split to chains without a second copy, each part measured on its own', async () => {
    const left = xorshiftNoise(1, 0.5, 32000);
    const quiet = xorshiftNoise(2, 0.05, 32000);
    const bytes = encodeWav([left, quiet, left], 16000, 24);
    const id = await deliverTake(comparisonId, 'session.wav', bytes);
    const audios = (await db().rows('SELECT id FROM audio')).length;
    const map = (channels: number[], chainId: string | null) => ({ channels, chainId });
    await expect(
      splitTake(engineer, comparisonId, id, { parts: [map([3], null)] }, NOON),
    ).rejects.toThrow('channel 4 is not there');
    const parts = [map([0, 1], null), map([1], chainIds[0]!)];
    await splitTake(engineer, comparisonId, id, { parts }, NOON);
    const made = (await takesOf(engineer, comparisonId)).filter(
      ({ fileName }) => fileName === 'session.wav',
    );
    expect(made.map(({ channels }) => channels)).toEqual([[0, 1], [1]]);
    for (const take of made) await inspected(take.id);
    const [pair, single] = (await takesOf(engineer, comparisonId)).filter(
      ({ fileName }) => fileName === 'session.wav',
    );
    expect(pair!.facts?.channels).toBe(2);
    expect(single).toMatchObject({ chainId: chainIds[0], facts: { channels: 1 } });
    // Uniform in ±0.05: 20·log10(0.05/√3).
    expect(single!.facts?.measurement.rmsDbfs).toBeCloseTo(-30.8, 1);
    expect((await db().rows('SELECT id FROM audio')).length).toBe(audios);
    await removeTake(engineer, comparisonId, pair!.id, NOON);
    await removeTake(engineer, comparisonId, single!.id, NOON);
  });
});

describe('archives', () => {
  const arrive = async (name: string, bytes: Uint8Array) => {
    await transaction(async (tx) => {
      const audioId = await createAudio(tx, bytes.length, NOON);
      await writeChunk(tx, audioId, 0, Buffer.from(bytes));
      await receiveUpload(tx, { comparisonId, audioId, fileName: name }, NOON);
    });
    const archive = await one(listArchives(db(), comparisonId));
    const waiting = await archiveToUnpack(archive.id);
    if (!waiting) throw new Error('nothing to unpack');
    const made = await unpackArchive({ audioId: waiting.audioId });
    if (!('files' in made)) {
      await transaction((tx) => failArchive(tx, archive.id, 'refused' in made ? made.refused : ''));
    } else {
      await keepUnpacked(waiting, made.files, made.skipped > 0 ? 'others left out' : null, NOON);
    }
    return archive.id;
  };
  const names = async () => (await takesOf(engineer, comparisonId)).map((take) => take.fileName);

  it('become takes; paths lead nowhere and other files are left out', async () => {
    const one = encodeWav([xorshiftNoise(5, 0.2, 20000)], 16000, 24);
    const two = encodeWav([xorshiftNoise(6, 0.2, 20000)], 16000, 24);
    const id = await arrive(
      'day one.zip',
      zipSync({
        '../../etc/Kern 40 take 7.wav': [one, { level: 0 }],
        'sub/folder/Halde T2 take 8.wav': two,
        'readme.txt': new Uint8Array([1, 2]),
      }),
    );
    expect(await names()).toEqual(
      expect.arrayContaining(['Kern 40 take 7.wav', 'Halde T2 take 8.wav']),
    );
    for (const take of await takesOf(engineer, comparisonId)) {
      if (/take [78]/.test(take.fileName)) {
        await inspected(take.id);
        await removeTake(engineer, comparisonId, take.id, NOON);
      }
    }
    await removeArchive(engineer, comparisonId, id);
  });

  const damaged = zipSync({
    'a.wav': [encodeWav([xorshiftNoise(8, 0.2, 90000)], 16000, 24), { level: 0 }],
  });
  damaged[50000]! ^= 1;

  it('that is locked is refused with the reason', async () => {
    const zip = new ZipWriter(new Uint8ArrayWriter(), {
      password: 'rehearsal',
      useWebWorkers: false,
    });
    await zip.add('a.wav', new Uint8ArrayReader(encodeWav([new Float64Array(900)], 16000, 24)));
    const id = await arrive('locked.zip', await zip.close());
    const archive = await one(listArchives(db(), comparisonId));
    expect(archive.remark).toContain('it is locked with a password');
    await removeArchive(engineer, comparisonId, id);
  });

  it.each([
    ['is no zip', Buffer.from('hello, this is not an archive'), 'it is not a zip file'],
    ['holds no sound', zipSync({ 'a.txt': new Uint8Array(9) }), 'it holds no WAV or FLAC file'],
    [
      'swells',
      zipSync({ 'a.wav': new Uint8Array(100 << 20) }, { level: 9 }),
      'far more than sound can be packed',
    ],
    [
      'is cut short',
      zipSync({
        'a.wav': [encodeWav([xorshiftNoise(8, 0.2, 90000)], 16000, 24), { level: 0 }],
      }).subarray(0, 90000),
      'cut short',
    ],
    ['has another byte than its checksum says', damaged, 'it is damaged'],
  ])('that %s leaves a sentence and nothing else', async (_, bytes, sentence) => {
    const audios = async () => (await db().rows('SELECT id FROM audio')).length;
    const before = await audios();
    const id = await arrive('bad.zip', bytes);
    const archive = await one(listArchives(db(), comparisonId));
    expect(archive).toMatchObject({ id, state: 'failed' });
    expect(archive.remark).toContain(sentence);
    await removeArchive(engineer, comparisonId, id);
    expect(await audios()).toBe(before);
  });
});

it('several at once, at the same time, lose nothing of each other', async () => {
  const own = await bankWithTakes(engineer);
  const ids = (await takesOf(engineer, own.comparisonId)).map(({ id }) => id);
  const change = (what: object) =>
    changeTakes(engineer, own.comparisonId, { takeIds: ids, ...what }, NOON);
  for (let i = 0; i < 5; i++) {
    await Promise.all([
      change({ chainId: own.chainIds[i % 3] }),
      change({ detail: `round ${i}` }),
      change({ newChainName: `New ${i}` }),
      change({ newChainName: `new ${i}` }),
    ]);
  }
  const after = await takesOf(engineer, own.comparisonId);
  expect(after.map(({ detail }) => detail)).toEqual(ids.map(() => 'round 4'));
  // One that was removed in another window does not stop the others.
  await removeTake(engineer, own.comparisonId, ids[0]!, NOON);
  expect(await change({ detail: 'later' })).toEqual({ gone: 1 });
  expect((await takesOf(engineer, own.comparisonId)).map(({ detail }) => detail)).toEqual([
    'later',
    'later',
  ]);
  await expect(
    changeTakes(engineer, own.comparisonId, { takeIds: [ids[0]!], detail: 'x' }, NOON),
  ).rejects.toMatchObject({ status: 404 });
});

describe('FLAC', () => {
  const file = readFileSync(path.join(process.cwd(), 'src/steps/test/noise.flac'));

  it('is decoded sample for sample, and known as the same recording as its WAV', async () => {
    const id = await deliverTake(comparisonId, 'noise.flac', file);
    const take = (await takesOf(engineer, comparisonId)).find((one) => one.id === id);
    expect(take).toMatchObject({
      state: 'ready',
      facts: { sampleRateHz: 48000, bitDepth: 24, channels: 1, frames: 12000 },
    });
    const { audio_id: audioId } = await one(
      db().rows<{ audio_id: number }>('SELECT audio_id FROM take WHERE id = $1', [id]),
    );
    const source = await audioSource(db(), audioId);
    const { channels } = await decodeWav(await source.read(0, source.byteLength));
    const noise = xorshiftNoise(21, 0.5, 12000);
    channels[0]!.forEach((x, n) =>
      expect(x * 2 ** 23).toBeCloseTo(Math.floor(noise[n]! * 2 ** 23 + 0.5), 6),
    );
    await removeTake(engineer, comparisonId, id, NOON);
  });

  it('is a duplicate of a WAV with the same samples, whatever else stands in that', async () => {
    const wav = Buffer.from(encodeWav([xorshiftNoise(21, 0.5, 12000)], 48000, 24));
    const list = Buffer.from('LIST\x14\0\0\0INFOINAM\x07\0\0\0a name\0\0', 'latin1');
    const named = Buffer.concat([wav, list]);
    named.writeUInt32LE(named.length - 8, 4);
    const first = await deliverTake(comparisonId, 'named.wav', named);
    const again = await deliverTake(comparisonId, 'noise.flac', file);
    // Other samples, or another rate, are another recording.
    const others = [
      await deliverTake(
        comparisonId,
        'b.wav',
        encodeWav([xorshiftNoise(22, 0.5, 12000)], 48000, 24),
      ),
      await deliverTake(
        comparisonId,
        'c.wav',
        encodeWav([xorshiftNoise(21, 0.5, 12000)], 44100, 24),
      ),
    ];
    const takes = await takesOf(engineer, comparisonId);
    const of = (id: string) => takes.find((one) => one.id === id);
    expect(of(first)).toMatchObject({
      state: 'ready',
      facts: { metadata: { info: { INAM: 'a name' } } },
    });
    expect(of(again)).toMatchObject({ state: 'duplicate', chainId: null });
    expect(of(again)?.remark).toContain('here already as named.wav');
    expect(others.map((id) => of(id)?.state)).toEqual(['ready', 'ready']);
    for (const id of [first, again, ...others]) await removeTake(engineer, comparisonId, id, NOON);
  });

  it('with broken frames is refused with the place, and nothing is left', async () => {
    const broken = Buffer.from(file);
    broken.fill(0x55, broken.length >> 1, (broken.length >> 1) + 400);
    const audios = async () => (await db().rows('SELECT id FROM audio')).length;
    const before = await audios();
    const id = await deliverTake(comparisonId, 'broken.flac', broken);
    const take = (await takesOf(engineer, comparisonId)).find((one) => one.id === id);
    expect(take).toMatchObject({ state: 'refused' });
    expect(take?.remark).toMatch(/cannot be used: the FLAC file (is damaged|is cut short)/);
    await removeTake(engineer, comparisonId, id, NOON);
    expect(await audios()).toBe(before);
  });
});

describe('takes that an older version measured', () => {
  const factsOf = async (takeId: string) => (await findTake(db(), takeId))?.facts;
  const before = '00000000-0000-0000-0000-000000000000';

  it('are found and measured again from their bytes; what was said of the file stays', async () => {
    const { id } = await one(takesOf(engineer, comparisonId));
    const fresh = await factsOf(id);
    expect(fresh?.version).toBe(FACTS_VERSION);
    expect(await staleTake(before)).toBeNull();
    // As the first version wrote it: no version, no bands, another loudness.
    await db().rows(
      `UPDATE take SET facts = jsonb_set(facts #- '{version}' #- '{features,thirdsDb}',
         '{measurement,integratedLufs}', '-99') || '{"warnings":["odd"]}' WHERE id = $1`,
      [id],
    );
    const stale = await staleTake(before);
    expect(stale?.id).toBe(id);
    if (!stale) return;
    expect(stale.facts).toMatchObject({ version: 1, measurement: { integratedLufs: -99 } });
    // Pages can be looked at meanwhile.
    expect(
      (await takesViewOf(engineer, comparisonId, takesQuery.parse({}))).takes.items.map(
        (take) => take.id,
      ),
    ).toContain(id);
    const { audioId, channels } = stale;
    const found = await inspectTake({ audioId, channels });
    if (found.outcome !== 'ready') throw new Error(found.reason);
    await keepMeasuredAgain(stale, found);
    expect(await factsOf(id)).toEqual({ ...fresh, warnings: ['odd'] });
    expect(await staleTake(before)).toBeNull();
  });

  it('are gone when they were removed meanwhile', async () => {
    const id = await deliverTake(
      comparisonId,
      'short.wav',
      encodeWav([xorshiftNoise(77, 0.1, 16000)], 16000, 24),
    );
    const take = await findTake(db(), id);
    if (!take?.facts) throw new Error('it was not measured');
    await removeTake(engineer, comparisonId, id, NOON);
    await keepMeasuredAgain(take, { facts: take.facts, peaks: new Uint8Array(1) });
    expect(await findTake(db(), id)).toBeNull();
  });
});

describe('several performances at once', () => {
  const performance = (seed: number) => xorshiftNoise(seed, 0.2, 32000);
  const heard = (seed: number, { late = 0, gain = 1 }) =>
    encodeWav([performance(seed).map((_, n, all) => gain * (all[n - late] ?? 0))], 16000, 24);

  it('are told apart: polarity, delay and distance are judged within each, never across', async () => {
    const draft = { title: 'At once', question: '', sourceName: 'Clarinet', passageName: 'all' };
    const id = await createComparison(engineer, draft, NOON);
    for (const name of ['Alder', 'Birch']) {
      await addChain(engineer, id, { name, items: '', priceCents: null });
    }
    const files: [string, Uint8Array][] = [
      ['Alder_1.wav', heard(1, {})],
      ['Alder_2.wav', heard(2, {})],
      ['Birch_1.wav', heard(1, { late: 8, gain: -0.5 })],
      ['Birch_2.wav', heard(2, { late: 16, gain: 0.5 })],
    ];
    for (const [name, bytes] of files) await deliverTake(id, name, bytes);
    const related = async () => {
      const order = await alignmentOrder(id);
      if (!order) throw new Error('something still waits');
      await keepAlignments(id, await relateTakes({ order }));
      return takesOf(engineer, id);
    };
    const takes = await related();
    const of = (name: string) => takes.find(({ fileName }) => fileName === name);
    // Nobody chose: both chains go into the first performance, whatever was written first.
    expect(takes.filter((take) => take.foremost).map(({ fileName }) => fileName)).toEqual([
      'Alder_1.wav',
      'Birch_1.wav',
    ]);
    const inverted = (name: string) => of(name)?.checks.some(({ check }) => check === 'polarity');
    expect(of('Birch_1.wav')?.referenceAlignment?.referenceTakeId).toBe(of('Alder_1.wav')?.id);
    expect(of('Birch_1.wav')?.referenceAlignment?.delaySamples).toBeCloseTo(8, 1);
    expect(of('Birch_2.wav')?.referenceAlignment?.referenceTakeId).toBe(of('Alder_2.wav')?.id);
    expect(of('Birch_2.wav')?.referenceAlignment?.delaySamples).toBeCloseTo(16, 1);
    expect([inverted('Birch_1.wav'), inverted('Birch_2.wav')]).toEqual([true, false]);
    const { sets } = await takesViewOf(engineer, id, takesQuery.parse({}));
    expect(sets.flatMap(({ remarks }) => remarks).join()).not.toContain('the same performance');
    // All chains at once go to one performance, wherever in their order it stands.
    const alder = of('Alder_2.wav')!;
    expect([alder, of('Birch_2.wav')].map((take) => take?.performance)).toEqual([
      { number: 2, ground: 'sound', renderedFrom: null },
      { number: 2, ground: 'sound', renderedFrom: null },
    ]);
    const choice = { sourceId: alder.sourceId, number: 2 };
    expect(await pickPerformance(engineer, id, choice)).toEqual({ picked: 2 });
    const picked = async () =>
      (await takesOf(engineer, id)).flatMap((take) => (take.picked ? [take.fileName] : []));
    expect(await picked()).toEqual(['Alder_2.wav', 'Birch_2.wav']);
    await expect(pickPerformance(engineer, id, { ...choice, number: 3 })).rejects.toMatchObject({
      status: 422,
    });
    expect(await picked()).toEqual(['Alder_2.wav', 'Birch_2.wav']);
    // In another order than the reference's, and one that nobody else played.
    await deliverTake(id, 'Birch_3.wav', heard(1, { late: 3, gain: 0.7 }));
    await deliverTake(id, 'Birch_4.wav', heard(9, {}));
    const more = await related();
    const third = more.find(({ fileName }) => fileName === 'Birch_3.wav');
    expect(third?.referenceAlignment?.referenceTakeId).toBe(of('Alder_1.wav')?.id);
    await pickPerformance(engineer, id, { ...choice, number: 1 });
    expect(await picked()).toEqual(['Alder_1.wav', 'Birch_1.wav']);
    // Somebody who was there knows better: both at once, and taken back.
    const told = async () =>
      (await takesOf(engineer, id)).map(({ performance }) => performance?.number);
    // The third of the second chain is its first once more, rendered by whatever made it later and softer.
    expect(await told()).toEqual([1, 2, 1, 2, 1, 3]);
    expect(third?.performance?.renderedFrom).toBe(of('Birch_1.wav')!.id);
    const takeIds = [alder.id, third!.id];
    await changeTakes(engineer, id, { takeIds, performance: 5 }, NOON);
    expect(await told()).toEqual([1, 5, 1, 2, 5, 3]);
    const usual = async () =>
      (await takesOf(engineer, id)).flatMap((take) => (take.foremost ? [take.fileName] : []));
    expect(await usual()).toEqual(['Alder_1.wav', 'Birch_1.wav']);
    expect(await pickPerformance(engineer, id, { ...choice, number: 5 })).toEqual({ picked: 2 });
    expect(await picked()).toEqual(['Alder_2.wav', 'Birch_3.wav']);
    await changeTakes(engineer, id, { takeIds, performance: null }, NOON);
    expect(await told()).toEqual([1, 2, 1, 2, 1, 3]);
    const after = await takesViewOf(engineer, id, takesQuery.parse({}));
    expect(after.sets.flatMap(({ remarks }) => remarks).join()).toContain(
      'Birch does not hold the same performance',
    );
  });
});

describe('a file rendered elsewhere', () => {
  it('says nothing of how two takes differ, and is none where the source is replayed', async () => {
    const draft = { title: 'Rendered', question: '', sourceName: 'Clarinet', passageName: 'all' };
    const id = await createComparison(engineer, draft, NOON);
    for (const name of ['Alder', 'Birch']) {
      await addChain(engineer, id, { name, items: '', priceCents: null });
    }
    const played = xorshiftNoise(3, 0.2, 2 * 48000);
    const file = (gain: number, late: number) =>
      encodeWav([played.map((_, n) => gain * (played[n - late] ?? 0))], 48000, 24);
    await deliverTake(id, 'Alder_1.wav', file(1, 0));
    await deliverTake(id, 'Birch_1.wav', file(0.5, 8));
    const bounce = await deliverTake(id, 'Birch_1 bounce.wav', file(0.9, 45));
    await db().rows('UPDATE take SET created_at = $2 WHERE id = $1', [
      bounce,
      new Date(NOON.getTime() + 60_000),
    ]);
    const capture = async (how: string) => {
      await db().rows('UPDATE source SET capture = $2 WHERE comparison_id = $1', [id, how]);
      await keepAlignments(id, await relateTakes({ order: (await alignmentOrder(id))! }));
      const { sets } = await takesViewOf(engineer, id, takesQuery.parse({ tab: 'measured' }));
      const take = (await takesOf(engineer, id)).find((one) => one.id === bounce)!;
      return { pairs: sets.flatMap(({ baseline }) => baseline).length, take };
    };
    const once = await capture('at once');
    expect(once.take.performance?.renderedFrom).not.toBeNull();
    // Neither chain has two takes, so there is no baseline.
    expect(once.pairs).toBe(0);
    // It is as loud as the reference's, which the take it was made of is not.
    const turns = await capture('one after another');
    expect([turns.pairs, turns.take.nearest]).toEqual([0, false]);
    const replayed = await capture('replayed');
    expect(replayed.take.performance?.renderedFrom).toBeNull();
    expect(replayed.pairs).toBe(1);
  });
});

describe('takes against each other', () => {
  it('are related to the reference: delay, polarity, and what the set says of them', async () => {
    const order = await alignmentOrder(comparisonId);
    if (!order) throw new Error('something still waits');
    await keepAlignments(comparisonId, await relateTakes({ order }));
    const { sets } = await takesViewOf(engineer, comparisonId, takesQuery.parse({}));
    const takes = await takesOf(engineer, comparisonId);
    const of = (name: string) => takes.find(({ fileName }) => fileName === `${name}.wav`);
    const at = (name: string) => of(name)?.referenceAlignment?.delaySamples ?? 0;
    // 2 cm further: 0.02 m over the speed of sound at 16 kHz.
    expect(at('Halde T2') - at('Kern 40')).toBeCloseTo((0.02 / 343.42) * 16000, 0);
    expect(of('Ostra R1')?.checks.map(({ check }) => check)).toContain('polarity');
    expect(sets.flatMap(({ remarks }) => remarks).join()).not.toContain('same performance');
  });

  it('a remark that was looked at is recorded with its reason, and can be taken back', async () => {
    const ostra = async () =>
      (await takesOf(engineer, comparisonId)).find((t) => t.fileName === 'Ostra R1.wav');
    const id = (await ostra())?.id ?? '';
    const reason = 'known: ribbon wired the other way round';
    await overrideCheck(engineer, comparisonId, id, { check: 'polarity', reason }, NOON);
    expect((await ostra())?.overrides).toEqual([{ check: 'polarity', reason }]);
    await overrideCheck(engineer, comparisonId, id, { check: 'polarity', reason: null }, NOON);
    expect((await ostra())?.overrides).toEqual([]);
  });
});

describe('the test programme', () => {
  it('becomes numbers of each chain, and takes of one chain are set against chains', async () => {
    const { comparisonId: own } = await bankWithTakes(engineer);
    const hiss = (seed: number, level: number) =>
      encodeWav([xorshiftNoise(seed, level, 16000 * 3)], 16000, 24);
    await deliverTake(own, 'Kern 40 room tone.wav', hiss(1, 0.001));
    await deliverTake(own, 'Halde T2 room tone.wav', hiss(2, 0.004));
    await deliverTake(own, 'Kern 40 off-axis 0.wav', hiss(3, 0.1));
    await deliverTake(own, 'Kern 40 off-axis 90.wav', hiss(4, 0.05));
    await deliverTake(own, 'Kern 40 take 2.wav', hiss(5, 0.2));
    const asked = takesQuery.parse({ tab: 'measured' });
    const { numbers, sets, takes, coverage } = await takesViewOf(engineer, own, asked);
    expect(takes).toMatchObject({ found: 8, all: 8, steps: ['performance', 'room', 'off-axis'] });
    const rooms = await takesViewOf(engineer, own, takesQuery.parse({ show: 'room' }));
    expect(rooms.takes.items.map(({ fileName }) => fileName).sort()).toEqual([
      'Halde T2 room tone.wav',
      'Kern 40 room tone.wav',
    ]);
    const of = (name: string) => numbers.find(({ chain }) => chain === name);
    // Uniform noise in ±a has a mean square of a²/3.
    expect(of('Kern 40')?.room?.flatDb).toBeCloseTo(20 * Math.log10(0.001 / Math.sqrt(3)), 1);
    expect(of('Halde T2')?.room?.flatDb).toBeCloseTo(20 * Math.log10(0.004 / Math.sqrt(3)), 1);
    expect(of('Kern 40')?.offAxis[0]).toMatchObject({ detail: '90' });
    expect(of('Kern 40')?.offAxis[0]?.overallDb).toBeCloseTo(-6.02, 1);
    expect(of('Ostra R1')?.room).toBeNull();
    // A second “take” that is nothing but hiss differs more from the first than any chain does.
    const pair = sets[0]!.baseline.find(({ first, second }) =>
      `${first} ${second}`.includes('Kern 40'),
    );
    expect(pair).toMatchObject({ proves: 'nothing', within: { chain: 'Kern 40' } });
    // At the stand the same is said as soon as it is known: of two pairs with Kern 40, the first in words.
    const [said, ...others] = await provedSoFar(own);
    expect(others).toEqual([]);
    expect(said).toMatch(/^The takes of Kern 40 differ more than .* proves nothing\./);
    expect(said).toMatch(/So it is with 1 other pair\.$/);
    // Once it is heard that all chains hold one performance, nothing has to be set against how the next was played.
    await keepAlignments(own, await relateTakes({ order: (await alignmentOrder(own))! }));
    const related = await takesViewOf(engineer, own, asked);
    expect(related.sets.flatMap(({ baseline }) => baseline)).toEqual([]);
    expect(await provedSoFar(own)).toEqual([]);
    // Unless they were recorded otherwise.
    await db().rows("UPDATE source SET capture = 'one after another' WHERE comparison_id = $1", [
      own,
    ]);
    expect(await provedSoFar(own)).toEqual([said]);
    // What each chain has, and what one lacks that another has.
    expect(coverage.columns.map(({ programme, detail }) => `${programme} ${detail}`)).toEqual([
      'performance ',
      'room ',
      'off-axis 0',
      'off-axis 90',
    ]);
    expect(coverage.rows.map(({ cells }) => cells.map((cell) => cell.takes))).toEqual([
      [2, 1, 1, 1],
      [1, 1, 0, 0],
      [1, 0, 0, 0],
    ]);
    expect(coverage.gaps).toBe(5);
  });
});

it('uploads reserve what they promise, so that all that were taken in fit', async () => {
  const before = await transaction(promisedBytes);
  const audioId = await createAudio(db(), 5000, NOON);
  const upload = { id: 'promised', comparison_id: comparisonId, audio_id: audioId };
  await insertUpload(db(), { ...upload, file_name: 'x.wav', byte_length: 5000, pattern: '' }, NOON);
  expect((await transaction(promisedBytes)) - before).toBe(5000);
  await advanceUpload(db(), 'promised', 0, 3000);
  expect((await transaction(promisedBytes)) - before).toBe(2000);

  // Of two that fit one by one only, the second is refused before a byte is sent.
  process.env.ZEITBANK_STORE = os.tmpdir();
  const { bavail, bsize } = statfsSync(os.tmpdir());
  const most = Math.floor(0.6 * (bavail * bsize - 2 ** 29));
  const reserve = () => transaction((tx) => reserveSpace(tx, most));
  await reserve();
  await db().rows('UPDATE upload SET byte_length = $1 WHERE id = $2', [most + 3000, 'promised']);
  await expect(reserve()).rejects.toMatchObject({ code: 'ENOSPC' });
  delete process.env.ZEITBANK_STORE;
  await db().rows('DELETE FROM upload WHERE id = $1', ['promised']);
});

describe('what is left lying', () => {
  it('uploads that nobody went on with for a week are dropped, others stay', async () => {
    const begin = async (id: string, daysAgo: number) => {
      const at = new Date(NOON.getTime() - daysAgo * 24 * 3600 * 1000);
      const audioId = await createAudio(db(), 100, at);
      const upload = { id, comparison_id: comparisonId, audio_id: audioId };
      await insertUpload(
        db(),
        { ...upload, file_name: 'x.wav', byte_length: 100, pattern: '' },
        at,
      );
      return audioId;
    };
    const old = await begin('old', 8);
    const recent = await begin('recent', 2);
    expect(await tidyUploads(NOON)).toBe(1);
    expect(await audioLength(db(), old)).toBeNull();
    expect(await audioLength(db(), recent)).toBe(100);
  });

  it('sound that nothing has goes after a week, whatever left it; what a take has stays', async () => {
    const week = new Date(NOON.getTime() - 8 * 24 * 3600 * 1000);
    const orphan = await createAudio(db(), 10, week);
    const kept = await createAudio(db(), 10, week);
    const takeId = await insertTake(
      db(),
      { comparisonId, sourceId: await firstSource(), audioId: kept, fileName: 'kept.wav' },
      NOON,
    );
    await tidyUploads(NOON);
    expect(await audioLength(db(), orphan)).toBeNull();
    expect(await audioLength(db(), kept)).toBe(10);
    await removeTake(engineer, comparisonId, takeId, NOON);
  });

  it('a recording that cannot be checked says so instead of waiting for ever', async () => {
    const audioId = await createAudio(db(), 5, NOON);
    const sourceId = await firstSource();
    const file = { comparisonId, sourceId, audioId, fileName: 'stuck.wav' };
    const takeId = await insertTake(db(), file, NOON);
    await transaction((tx) => giveUpInspection(tx, takeId, NOON));
    const take = (await takesOf(engineer, comparisonId)).find(({ id }) => id === takeId);
    expect(take).toMatchObject({ state: 'refused' });
    expect(take?.remark).toContain('drop it again');
    await removeTake(engineer, comparisonId, takeId, NOON);
  });
});

const firstSource = async () => (await sourceOf(db(), comparisonId, null)).id;

describe('two windows', () => {
  it('cannot overwrite each other: the later is told, the earlier is kept', async () => {
    const { version, ...seen } = await comparisonOf(engineer, comparisonId);
    const { question, passageName } = seen;
    const draft = { question, passageName, version };
    await changeComparison(engineer, comparisonId, { ...draft, title: 'From window one' }, NOON);
    await expect(
      changeComparison(engineer, comparisonId, { ...draft, title: 'From window two' }, NOON),
    ).rejects.toMatchObject({ status: 409 });
    expect((await comparisonOf(engineer, comparisonId)).title).toBe('From window one');
  });

  it('the same for chains, whose names are told apart', async () => {
    const chain = await one(chainsOf(engineer, comparisonId));
    const draft = { name: 'Kern 40', items: 'changed', priceCents: 100, version: chain.version };
    await changeChain(engineer, comparisonId, chain.id, draft);
    await expect(
      changeChain(engineer, comparisonId, chain.id, { ...draft, items: 'late' }),
    ).rejects.toMatchObject({ status: 409 });
    await expect(
      addChain(engineer, comparisonId, { name: 'kern 40', items: '', priceCents: null }),
    ).rejects.toThrow('There is a chain “kern 40” already');
  });
});

describe('strangers', () => {
  it('find nothing', async () => {
    await expect(comparisonOf(stranger, comparisonId)).rejects.toMatchObject({ status: 404 });
    await expect(takesOf(stranger, comparisonId)).rejects.toMatchObject({ status: 404 });
    await expect(removeChain(stranger, comparisonId, chainIds[0]!, NOON)).rejects.toMatchObject({
      status: 404,
    });
  });
});

describe('chains of names', () => {
  it('are proposed for files without one, and made with their files in one go', async () => {
    const id = await createComparison(
      engineer,
      { title: 'Names', question: '', sourceName: 'Clarinet', passageName: 'all' },
      NOON,
    );
    const names = ['Kern40_take1.wav', 'Kern40_take2.wav', 'Halde_take1.wav'];
    for (const [i, name] of names.entries()) {
      const samples = sine(440 + i, 16000, 1, 0.1);
      await deliverTake(id, name, encodeWav([samples], 16000, 24));
    }
    const view = () => takesViewOf(engineer, id, takesQuery.parse({}));
    expect((await view()).proposedChains).toEqual([
      { name: 'Halde', fresh: true, files: 1 },
      { name: 'Kern40', fresh: true, files: 2 },
    ]);
    expect(await makeChainsOfNames(engineer, id, NOON)).toEqual({ chains: 2, takes: 3 });
    const chains = await chainsOf(engineer, id);
    expect(chains.map(({ name }) => name)).toEqual(['Halde', 'Kern40']);
    const takes = await listTakes(db(), id);
    for (const { fileName, chainId } of takes) {
      const { name } = chains.find((chain) => chain.id === chainId)!;
      expect(fileName.startsWith(name)).toBe(true);
    }
    expect((await view()).proposedChains).toEqual([]);
    // Asked again, from another window: nothing is made twice.
    expect(await makeChainsOfNames(engineer, id, NOON)).toEqual({ chains: 0, takes: 0 });
  });

  it('are told when a chain was named since, and never cross to somebody else', async () => {
    const id = await createComparison(
      engineer,
      { title: 'Later', question: '', sourceName: 'Clarinet', passageName: 'all' },
      NOON,
    );
    await deliverTake(id, 'Ostra.wav', encodeWav([sine(300, 16000, 1, 0.1)], 16000, 24));
    await addChain(engineer, id, { name: 'Ostra', items: '', priceCents: null });
    const { proposedChains } = await takesViewOf(engineer, id, takesQuery.parse({}));
    expect(proposedChains).toEqual([{ name: 'Ostra', fresh: false, files: 1 }]);
    await expect(makeChainsOfNames(stranger, id, NOON)).rejects.toMatchObject({ status: 404 });
    expect(await makeChainsOfNames(engineer, id, NOON)).toEqual({ chains: 0, takes: 1 });
  });
});

it('a follow-up has the takes of before, with what was measured, and no second copy of their sound', async () => {
  const from = await createComparison(
    engineer,
    { title: 'Once', question: 'Which?', sourceName: 'Clarinet', passageName: 'bridge' },
    NOON,
  );
  const [kept, gone] = [
    await addChain(engineer, from, { name: 'Kern 40', items: '', priceCents: null }),
    await addChain(engineer, from, { name: 'Halde T2', items: '', priceCents: null }),
  ];
  const bytes = [takeBytes(0), takeBytes(1)];
  await deliverTake(from, 'Kern 40.wav', bytes[0]!);
  await deliverTake(from, 'Halde T2.wav', bytes[1]!);
  await markPassage(engineer, from, { fromS: 2, toS: 5 });
  await removeChain(engineer, from, gone, NOON);
  const sounds = async () => (await db().rows('SELECT id FROM audio')).length;
  const before = await sounds();

  const copy = await copyWithTakes(engineer, from, NOON);
  const [chain] = await chainsOf(engineer, copy);
  expect(chain).toMatchObject({ name: 'Kern 40' });
  expect(chain!.id).not.toBe(kept);
  const [old, fresh] = [await takesOf(engineer, from), await takesOf(engineer, copy)];
  // One whose chain was removed comes without.
  const laid = (takes: typeof old) => takes.map(({ fileName, facts }) => ({ fileName, facts }));
  expect(laid(fresh)).toEqual(laid(old));
  expect(new Set(fresh.map(({ chainId }) => chainId))).toEqual(new Set([chain!.id, null]));
  expect(await one(listPassages(db(), copy))).toMatchObject({ fromS: 2, toS: 5 });
  expect(await sounds()).toBe(before);
  // Each goes its own way from here.
  for (const { id } of fresh) await removeTake(engineer, copy, id, NOON);
  expect(await takesOf(engineer, from)).toHaveLength(2);
  expect(await sounds()).toBe(before);
});

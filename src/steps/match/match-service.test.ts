import { passageChange } from '@/steps/comparisons/schema';
import { createHash, randomUUID } from 'node:crypto';
import { unzipSync } from 'fflate';
import { MILD_PROCESSING } from '@/core/processing/settings';
import { DEFAULT_TONE_MATCH } from '@/core/spectrum/tone-match';
import { sine, xorshiftNoise } from '@/core/test/signals';
import { resample } from '@/core/signal/resample';
import { decodeWav } from '@/core/wav/read';
import { encodeWav } from '@/core/wav/write';
import { measure } from '@/core/loudness/meter';
import { audioSource } from '@/platform/audio-store';
import { db, transaction } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { one } from '@/platform/one';
import { addChain } from '@/steps/chains/service';
import {
  addPassage,
  changePassage,
  createComparison,
  removePassage,
} from '@/steps/comparisons/service';
import { pickOne, removeTake } from '@/steps/takes/service';
import {
  bankWithTakes,
  rendered,
  CHAIN_NAMES,
  deliverTake,
  markPassage,
  orderMatch,
} from '@/steps/test/bank';
import { measureAgain } from '@/worker/measure-again';
import { hashPackClips, packClips, pictureClips } from '@/worker/tasks';
import { makePack, openPackKey, packJob, packsOf } from './pack';
import { packKey, packManifest } from './pack-format';
import type { MatchOrder } from './schema';
import {
  clipForEngineer,
  failClipSet,
  keepRenderedSet,
  matchOf,
  removeFailed,
  renderOrder,
  restorePassage,
  setAlignment,
  startMatch,
} from './service';

withTestDatabase();

let engineer: SignedIn;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
});

const LATER = (minutes: number) => new Date(NOON.getTime() + minutes * 60000);

async function bankOf(
  takes: Record<string, Uint8Array>,
): Promise<{ id: string; chains: string[] }> {
  const id = await createComparison(
    engineer,
    { title: 'Test', question: '', sourceName: 'Noise', passageName: 'all' },
    NOON,
  );
  const chains: string[] = [];
  for (const [name, bytes] of Object.entries(takes)) {
    chains.push(await addChain(engineer, id, { name, items: '', priceCents: null }));
    await deliverTake(id, `${name}.wav`, bytes);
  }
  return { id, chains };
}

type Order = Partial<MatchOrder> & { referenceChainId: string };

const ordered = (id: string, { referenceChainId, ...change }: Order, at: Date) =>
  orderMatch(engineer, id, referenceChainId, change, at);

/** Orders and makes a match as the worker does; the sentence when it was refused. */
async function made(id: string, order: Order, at: Date): Promise<string | null> {
  const setId = await ordered(id, order, at);
  const todo = await renderOrder(setId);
  if (!todo) throw new Error('nothing to do');
  const set = await rendered(todo);
  if ('refused' in set) {
    await transaction((tx) => failClipSet(tx, setId, set.refused));
    return set.refused;
  }
  await keepRenderedSet(todo, set, at);
  return null;
}

const noise = xorshiftNoise(3, 0.25, 48000 * 4);
const wav = (samples: Float64Array, rate = 48000) => encodeWav([samples], rate, 24);

describe('a match', () => {
  it('is the same whenever it is made, and nothing is made twice', async () => {
    const { comparisonId, chainIds } = await bankWithTakes(engineer);
    await markPassage(engineer, comparisonId, { fromS: 2, toS: 5 });
    const order = { method: 'loudness', referenceChainId: chainIds[0]! } as const;
    const setId = await ordered(comparisonId, order, NOON);
    const todo = await renderOrder(setId);
    if (!todo) throw new Error('nothing to do');
    // A worker that was killed after rendering runs the job again.
    const [one, two] = [await rendered(todo), await rendered(todo)];
    if ('refused' in one || 'refused' in two) throw new Error('refused');
    const hash = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');
    expect(one.result.clips.map(({ master }) => hash(master))).toEqual(
      two.result.clips.map(({ master }) => hash(master)),
    );
    await Promise.all([keepRenderedSet(todo, one, NOON), keepRenderedSet(todo, two, NOON)]).catch(
      () => undefined,
    );
    expect(await renderOrder(setId)).toBeNull();
    const { clips, clipSet } = await matchOf(engineer, comparisonId);
    expect(clips.length).toBe(3);
    expect(clipSet?.facts?.worstResidualLu).toBeLessThan(0.05);
    expect(clips[2]!.polarityInverted).toBe(true);
    // 2 cm further each: later by 0.02 m over the speed of sound.
    expect(clips[1]!.delaySamples).toBeCloseTo((0.02 / (331.3 + 0.606 * 20)) * 16000, 0);
    const { audioId } = await clipForEngineer(engineer, comparisonId, setId, chainIds[1]!);
    const source = await audioSource(db(), audioId);
    const { header, channels } = await decodeWav(await source.read(0, source.byteLength));
    expect(header).toMatchObject({ frames: 48000, format: { encoding: 'float', bitDepth: 32 } });
    expect(measure(channels, header.format).integratedLufs).toBeCloseTo(
      clipSet?.facts?.targetLufs ?? 0,
      2,
    );
  });

  it('begins with raw clips, then with what takes longest', async () => {
    const { id, chains } = await bankOf({
      one: wav(noise),
      two: wav(noise.map((x) => x * 0.5)),
    });
    const passageId = await markPassage(engineer, id, { fromS: 0, toS: 2 });
    const sets = await startMatch(
      engineer,
      id,
      {
        passageId,
        method: 'loudness',
        referenceChainId: chains[0]!,
        offsets: {},
        leftOut: [],
        contexts: [
          { kind: 'toned', settings: DEFAULT_TONE_MATCH },
          { kind: 'raw' },
          { kind: 'alike', settings: MILD_PROCESSING },
        ],
      },
      NOON,
    );
    const begun = await db().rows<{ set: string }>(
      `SELECT data ->> 'subjectId' AS set FROM pgboss.job WHERE data ->> 'subjectId' = ANY($1)
       ORDER BY priority DESC, created_on, id`,
      [sets],
    );
    const [toned, raw, alike] = sets;
    expect(begun.map(({ set }) => set)).toEqual([raw, alike, toned]);
  });

  it('asks for a passage, two takes, a reference with a take, and one match at a time', async () => {
    const { id, chains } = await bankOf({ one: wav(noise) });
    const order = { method: 'loudness', referenceChainId: chains[0]! } as const;
    await expect(ordered(id, order, NOON)).rejects.toThrow('Mark the passage');
    await markPassage(engineer, id, { fromS: 0, toS: 2 });
    await expect(ordered(id, order, NOON)).rejects.toThrow('at least two chains');
    const empty = await addChain(engineer, id, { name: 'empty', items: '', priceCents: null });
    chains.push(await addChain(engineer, id, { name: 'two', items: '', priceCents: null }));
    await deliverTake(id, 'two.wav', wav(noise.map((x) => x * 0.5)));
    const wrong = { ...order, referenceChainId: empty };
    await expect(ordered(id, wrong, NOON)).rejects.toThrow('choose another reference');
    await ordered(id, order, NOON);
    await expect(ordered(id, order, NOON)).rejects.toMatchObject({ status: 409 });
  });

  it('says what stands in its way, and leaves everything as it was', async () => {
    const short = await bankOf({ one: wav(noise), two: wav(noise.map((x) => x * 0.3)) });
    await markPassage(engineer, short.id, { fromS: 1, toS: 30 });
    const late = { method: 'loudness', referenceChainId: short.chains[0]! } as const;
    expect(await made(short.id, late, NOON)).toContain('The passage ends after one does');
    const view = await matchOf(engineer, short.id);
    expect(view.clipSet).toMatchObject({ state: 'failed', facts: null });
    expect(view.takes.filter(({ state }) => state === 'ready').length).toBe(2);
  });

  it('is made of what stood there when it was ordered', async () => {
    const { id, chains } = await bankOf({ one: wav(noise), two: wav(noise.map((x) => x * 0.5)) });
    await markPassage(engineer, id, { fromS: 1, toS: 2 });
    const [, take] = (await matchOf(engineer, id)).takes;
    await pickOne(engineer, id, take!.id);
    const better = await deliverTake(id, 'two_2.wav', wav(noise.map((x) => x * 0.25)));
    const order = { method: 'loudness', referenceChainId: chains[0]! } as const;
    const setId = await ordered(id, order, NOON);
    const first = (await renderOrder(setId))?.takes.find(({ chainId }) => chainId === chains[1]);
    // While it waits another take is chosen, and laid by hand.
    await pickOne(engineer, id, better);
    const { passage } = await matchOf(engineer, id);
    const placed = {
      passageId: passage.id,
      takeId: better,
      alignment: 'hand',
      delayMs: 3,
    } as const;
    await setAlignment(engineer, id, placed);
    const todo = await renderOrder(setId);
    expect(todo?.takes.find(({ chainId }) => chainId === chains[1])).toEqual(first);
    expect(first?.takeId).toBe(take!.id);
    // A page is not told all of it again with each set.
    expect((await matchOf(engineer, id)).sets[0]!.recipe.takes).toBeUndefined();
    const set = todo && (await rendered(todo));
    if (!set || 'refused' in set) throw new Error('not made');
    await keepRenderedSet(todo, set, NOON);
    // The next one is made of the other take.
    const next = await renderOrder(await ordered(id, order, LATER(1)));
    expect(next?.takes[1]).toMatchObject({ takeId: better, alignment: 'hand', delayMs: 3 });
  });

  it('says so when a take that it was ordered from is gone', async () => {
    const { id, chains } = await bankOf({ one: wav(noise), two: wav(noise.map((x) => x * 0.5)) });
    await markPassage(engineer, id, { fromS: 1, toS: 2 });
    const setId = await ordered(id, { method: 'loudness', referenceChainId: chains[0]! }, NOON);
    const gone = (await renderOrder(setId))?.takes[1]?.takeId ?? '';
    await removeTake(engineer, id, gone, NOON);
    expect(await renderOrder(setId)).toBeNull();
    expect((await matchOf(engineer, id)).clipSet).toMatchObject({
      state: 'failed',
      remark: 'A take that it was to be made of was removed meanwhile; match again.',
    });
  });

  it('that an older version pictured, or did not picture, is pictured again from its bytes', async () => {
    const { id, chains } = await bankOf({ one: wav(noise), two: wav(noise.map((x) => x * 0.3)) });
    await markPassage(engineer, id, { fromS: 1, toS: 3 });
    await made(id, { method: 'loudness', referenceChainId: chains[1]! }, NOON);
    const { clipSet, clips: before } = await matchOf(engineer, id);
    expect(before.every(({ spectra }) => spectra)).toBe(true);
    // One clip was never pictured, and the other one in an older way.
    await db().rows(
      `UPDATE clip SET pictures = CASE WHEN chain_id = $2 THEN NULL
         ELSE jsonb_set(pictures || '{"version": 0}', '{third,levelsDb,5}', '-99') END
       WHERE clip_set_id = $1`,
      [clipSet?.id ?? '', chains[0]!],
    );
    const pictured: string[] = [];
    await measureAgain(async <T>(name: string, task: object) => {
      pictured.push(name);
      return (await pictureClips(task as Parameters<typeof pictureClips>[0])) as T;
    });
    expect(pictured).toEqual(['pictureClips']);
    expect((await matchOf(engineer, id)).clips).toEqual(before);
    await measureAgain(() => Promise.reject(new Error('nothing is left to do')));
  });

  it('resamples a take of another rate, and says so', async () => {
    const other = resample(noise, 48000, 44100).map((x) => -0.4 * x);
    const { id, chains } = await bankOf({ one: wav(noise), two: wav(other, 44100) });
    await markPassage(engineer, id, { fromS: 0.5, toS: 2 });
    await made(id, { method: 'loudness', referenceChainId: chains[0]! }, NOON);
    const { clipSet, clips, takes } = await matchOf(engineer, id);
    expect(clipSet?.state).toBe('ready');
    expect(clipSet?.facts).toMatchObject({
      sampleRateHz: 48000,
      resampled: [{ chain: 'two', fromHz: 44100 }],
    });
    expect(Math.abs(clips[1]!.delaySamples)).toBeLessThan(0.1);
    expect(clips[1]!.polarityInverted).toBe(true);
    expect(Math.abs(clips[1]!.residualLu)).toBeLessThan(0.05);
    expect(takes.flatMap(({ checks }) => checks.map(({ check }) => check))).toContain('wrong rate');
    // Pictures: flat in every third that both rates hold; loudness misses what lay above 20 kHz.
    const bands =
      clips[1]!.spectra?.third.against.filter(
        ({ centerHz }) => centerHz > 60 && centerHz < 15_000,
      ) ?? [];
    expect(bands.length).toBe(24);
    const at1k = bands.find(({ centerHz }) => centerHz === 1000)?.differenceDb ?? 0;
    for (const { differenceDb } of bands) {
      expect(Math.abs((differenceDb ?? 99) - at1k)).toBeLessThan(0.2);
    }
  });

  it('recognises strangers, and lays them by hand when told', async () => {
    const stranger = xorshiftNoise(77, 0.2, 48000 * 4);
    const { id, chains } = await bankOf({ one: wav(noise), two: wav(stranger) });
    await markPassage(engineer, id, { fromS: 1, toS: 2 });
    const order = { method: 'rms', referenceChainId: chains[0]! } as const;
    expect(await made(id, order, NOON)).toContain('do not look like the same performance');
    const { alignments, passage } = await matchOf(engineer, id);
    const { takeId } = alignments[1]!;
    const placed = { passageId: passage.id, takeId, alignment: 'hand', delayMs: 12.5 } as const;
    await setAlignment(engineer, id, placed);
    expect(await made(id, order, LATER(1))).toBeNull();
    const { clips } = await matchOf(engineer, id);
    expect(clips[1]!.delaySamples).toBeCloseTo(600, 6);
    expect(clips[1]!.coherence).toBeNull();
  });

  it('finds a printed tone before the passage', async () => {
    const withTone = (tone: number, gain: number) => {
      const samples = new Float64Array(48000 * 6);
      samples.set(sine(1000, 48000, 1.5, tone), 4800);
      samples.set(
        noise.map((x) => x * gain),
        48000 * 2,
      );
      return wav(samples);
    };
    const { id, chains } = await bankOf({ one: withTone(0.2, 0.8), two: withTone(0.1, 0.8) });
    await markPassage(engineer, id, { fromS: 3, toS: 5 });
    const order = { method: 'tone', referenceChainId: chains[0]! } as const;
    expect(await made(id, order, NOON)).toBeNull();
    const { clips } = await matchOf(engineer, id);
    // The tone of the second is 6.02 dB lower, the programme is not: it ends 6.02 dB louder.
    expect(clips[1]!.gainDb - clips[0]!.gainDb).toBeCloseTo(6.02, 1);
    expect(clips[1]!.afterLufs! - clips[0]!.afterLufs!).toBeCloseTo(6.02, 1);
  });
});

describe('contexts', () => {
  const hum = sine(120, 48000, 4, 0.02);
  const music = noise.map((x, n) => 0.5 * x * (0.6 + 0.4 * Math.sin(n / 7000)));
  const dull = resample(music, 48000, 48000).map((x, n) => 0.4 * x + hum[n]!);

  const clips = async (id: string, chains: string[], contexts: MatchOrder['contexts']) =>
    made(id, { referenceChainId: chains[0]!, contexts }, LATER(contexts[0]!.kind.length));

  it('each is matched and verified on its own; raw, processed, tone-matched', async () => {
    const { id, chains } = await bankOf({ one: wav(music), two: wav(dull) });
    await markPassage(engineer, id, { fromS: 1, toS: 3 });
    const toned = { kind: 'toned' as const, settings: DEFAULT_TONE_MATCH };
    for (const context of [
      { kind: 'raw' as const },
      { kind: 'alike' as const, settings: MILD_PROCESSING },
      toned,
    ]) {
      expect(await clips(id, chains, [context])).toBeNull();
    }
    const { sets } = await matchOf(engineer, id);
    expect(sets.map(({ context }) => context).sort()).toEqual(['alike', 'raw', 'toned']);
    for (const set of sets) {
      expect(set.facts?.worstResidualLu).toBeLessThan(0.05);
      expect(set.recipe.context.kind).toBe(set.context);
    }
    const view = await matchOf(engineer, id, {
      clipSetId: sets.find(({ context }) => context === 'toned')?.id,
    });
    const lowered = view.clips[1]!.details.toning?.find(({ centerHz }) => centerHz === 125);
    expect(lowered?.db).toBeLessThan(-3);
  });

  it('tailored needs settings of every chain, the mix a backing track that is long enough', async () => {
    const { id, chains } = await bankOf({ one: wav(music), two: wav(dull) });
    await markPassage(engineer, id, { fromS: 1, toS: 3 });
    const tailored = { kind: 'tailored' as const, settings: { [chains[0]!]: MILD_PROCESSING } };
    await expect(clips(id, chains, [tailored])).rejects.toThrow('two has no settings of its own');
    const mix = { kind: 'mix' as const, balanceDb: -3 };
    await expect(clips(id, chains, [mix])).rejects.toThrow('need a backing track');
    const short = await deliverTake(id, 'backing.wav', wav(xorshiftNoise(40, 0.1, 48000 * 2)));
    expect(await clips(id, chains, [mix])).toContain('The backing track ends at 2.0 s');
    await removeTake(engineer, id, short, NOON);
    await deliverTake(id, 'backing long.wav', wav(xorshiftNoise(41, 0.1, 48000 * 4)));
    expect(await made(id, { referenceChainId: chains[0]!, contexts: [mix] }, LATER(9))).toBeNull();
  });

  it('passages lie beside each other, each with its own sets and placings', async () => {
    const { id, chains } = await bankOf({ one: wav(music), two: wav(dull) });
    await markPassage(engineer, id, { fromS: 1, toS: 3 });
    const second = await addPassage(engineer, id, { name: 'bridge', sourceId: null });
    await changePassage(engineer, id, second, { fromS: 2, toS: 3.5 });
    await expect(
      addPassage(engineer, id, { name: 'x', sourceId: randomUUID() }),
    ).rejects.toMatchObject({ status: 404 });
    expect(await clips(id, chains, [{ kind: 'raw' }])).toBeNull();
    const order = { referenceChainId: chains[0]!, passageId: second };
    expect(await made(id, order, LATER(5))).toBeNull();
    const [one, two] = await Promise.all([
      matchOf(engineer, id),
      matchOf(engineer, id, { passageId: second }),
    ]);
    expect(one.sets).toHaveLength(1);
    expect(two.clipSet?.facts?.frames).toBe(1.5 * 48000);
    await expect(removePassage(engineer, id, second, NOON)).rejects.toMatchObject({ status: 409 });
    await expect(removePassage(engineer, id, one.passages[0]!.id, NOON)).rejects.toMatchObject({
      status: 409,
    });
    const third = await addPassage(engineer, id, { name: 'coda', sourceId: null });
    const [take] = await db().rows<{ id: string }>(
      'SELECT id FROM take WHERE comparison_id = $1 ORDER BY file_name LIMIT 1',
      [id],
    );
    const takeId = take!.id;
    const placed = { passageId: third, takeId, alignment: 'hand', delayMs: 12.5 } as const;
    await setAlignment(engineer, id, placed);
    await removePassage(engineer, id, third, NOON);
    expect((await matchOf(engineer, id)).passages).toHaveLength(2);
    // It comes back with what was placed in it by hand.
    await restorePassage(engineer, id, third);
    const back = await matchOf(engineer, id, { passageId: third });
    expect(back.passages.map(({ name }) => name)).toContain('coda');
    const [again] = await db().rows('SELECT delay_ms FROM take_placing WHERE passage_id = $1', [
      third,
    ]);
    expect(again).toEqual({ delay_ms: 12.5 });
    await removePassage(engineer, id, third, NOON);
  });

  it('blends two chains that have takes into one that has none', async () => {
    const late = resample(music, 48000, 48000);
    const { id, chains } = await bankOf({
      one: wav(music),
      two: wav(Float64Array.from(late, (_, n) => -0.5 * (late[n - 96] ?? 0))),
    });
    await addChain(engineer, id, {
      name: 'both',
      items: '',
      priceCents: null,
      shape: {
        kind: 'blend',
        firstChainId: chains[0],
        otherChainId: chains[1]!,
        otherDb: -6,
        timing: 'as recorded',
        polarity: 'corrected',
      },
    });
    await markPassage(engineer, id, { fromS: 1, toS: 3 });
    expect(await clips(id, chains, [{ kind: 'raw' }])).toBeNull();
    const view = await matchOf(engineer, id);
    expect(view.clips).toHaveLength(3);
    const blend = view.clips[2]!.details.blend;
    expect(blend?.delaySamples).toBeCloseTo(96, 1);
    expect(blend).toMatchObject({ polarityInverted: true, leftInverted: false });
    expect(blend?.leftSamples).toBeCloseTo(96, 1);
  });
});

describe('blind pack', () => {
  it('holds coded clips that can be verified, and nothing that tells', async () => {
    const { comparisonId, chainIds } = await bankWithTakes(engineer);
    await markPassage(engineer, comparisonId, { fromS: 2, toS: 5 });
    expect(await made(comparisonId, { referenceChainId: chainIds[0]! }, NOON)).toBeNull();
    const { clipSet } = await matchOf(engineer, comparisonId);
    const setId = clipSet?.id ?? '';
    const question = 'Which suits better?';
    await expect(
      makePack(engineer, comparisonId, setId, { question: 'Is Kern 40 better?' }, NOON),
    ).rejects.toThrow('stands for “Kern 40”');
    const packId = await makePack(engineer, comparisonId, setId, { question }, NOON, hashPackClips);
    const zip = await packClips(await packJob(engineer, comparisonId, packId));
    expect(
      Buffer.from(zip).equals(
        Buffer.from(await packClips(await packJob(engineer, comparisonId, packId))),
      ),
    ).toBe(true);
    const files = unzipSync(zip);
    const text = (name: string) => Buffer.from(files[name]!).toString('utf8');
    const manifest = packManifest.parse(JSON.parse(text('manifest.json')));
    expect(manifest.clips).toHaveLength(3);
    const sizes = new Set<number>();
    for (const { file, sha256 } of manifest.clips) {
      expect(createHash('sha256').update(files[file]!).digest('hex')).toBe(sha256);
      sizes.add(files[file]!.length);
      const { header, channels } = await decodeWav(files[file]!);
      const lufs = measure(channels, header.format).integratedLufs ?? 0;
      expect(Math.abs(lufs - manifest.level.target)).toBeLessThan(0.05);
    }
    expect(sizes.size).toBe(1);
    const all = Buffer.from(zip).toString('latin1');
    for (const word of ['Kern', 'Halde', 'Ostra', ...chainIds]) expect(all).not.toContain(word);
    expect(text('README.txt')).toContain(manifest.seal);
    // The key is given out later, and is what was sealed.
    const [before] = await packsOf(engineer, comparisonId);
    expect(before).toMatchObject({ id: packId, openedAt: null, seal: manifest.seal });
    expect(JSON.stringify(before)).not.toContain('Kern');
    const key = await openPackKey(engineer, comparisonId, packId, LATER(3));
    expect(createHash('sha256').update(key).digest('hex')).toBe(manifest.seal);
    const { clips } = packKey.parse(JSON.parse(key));
    expect(clips.map(({ chain }) => chain)).toEqual(CHAIN_NAMES);
    // The key says which file is which by what is in it, so no other file can be passed off as one.
    for (const { word, sha256 } of clips) {
      expect(createHash('sha256').update(files[`${word}.wav`]!).digest('hex')).toBe(sha256);
    }
    expect((await packsOf(engineer, comparisonId))[0]!.openedAt).toEqual(LATER(3));
    const stranger = await testEngineer('Somebody Else');
    await expect(packJob(stranger, comparisonId, packId)).rejects.toMatchObject({ status: 404 });
    await expect(openPackKey(stranger, comparisonId, packId, NOON)).rejects.toMatchObject({
      status: 404,
    });
  });
});

it('a passage has a sensible length', () => {
  expect(passageChange.safeParse({ fromS: 1, toS: 1.5 }).success).toBe(false);
  expect(passageChange.safeParse({ fromS: 0, toS: 90 }).success).toBe(false);
  expect(passageChange.safeParse({ fromS: -1, toS: 9 }).success).toBe(false);
  expect(passageChange.safeParse({ fromS: 1, toS: 12 }).success).toBe(true);
});

it('the database itself refuses a clip that is not as loud as its set', async () => {
  const row = await one(
    db().rows<Record<string, string | number | boolean>>(
      'SELECT * FROM clip WHERE residual_lu < 0.05 LIMIT 1',
    ),
  );
  await expect(
    db().rows('UPDATE clip SET residual_lu = 0.06 WHERE clip_set_id = $1 AND chain_id = $2', [
      String(row.clip_set_id),
      String(row.chain_id),
    ]),
  ).rejects.toThrow(/check constraint/);
});

describe('what goes into a match', () => {
  const noise = xorshiftNoise(31, 0.2, 48000 * 3);
  const other = noise.map((x) => x * 0.5);

  it('names the file behind every clip, and leaves out what is told', async () => {
    const { id, chains } = await bankOf({
      one: wav(noise),
      two: wav(noise.map((x) => x * 0.5)),
      three: wav(noise.map((x) => x * 0.3)),
    });
    await markPassage(engineer, id, { fromS: 0, toS: 2 });
    const setId = await orderMatch(engineer, id, chains[0]!, { leftOut: [chains[1]!] });
    const order = await renderOrder(setId);
    expect(order?.takes.map(({ chainId }) => chainId)).toEqual([chains[0], chains[2]]);
    const made = await rendered(order!);
    if ('refused' in made) throw new Error(made.refused);
    await keepRenderedSet(order!, made, NOON);
    const { clips, clipSet } = await matchOf(engineer, id);
    expect(clipSet?.recipe.leftOut).toEqual([chains[1]]);
    expect(clips.map(({ fileName, takeId }) => [fileName, takeId])).toEqual([
      ['one.wav', order!.takes[0]!.takeId],
      ['three.wav', order!.takes[1]!.takeId],
    ]);
  });

  it('needs two of them, and the reference', async () => {
    const { id, chains } = await bankOf({ one: wav(noise), two: wav(other) });
    await markPassage(engineer, id, { fromS: 0, toS: 2 });
    await expect(
      orderMatch(engineer, id, chains[0]!, { leftOut: [chains[1]!] }),
    ).rejects.toMatchObject({ status: 422 });
    await expect(
      orderMatch(engineer, id, chains[0]!, { leftOut: [chains[0]!] }),
    ).rejects.toMatchObject({ status: 422 });
  });

  it('lets a match that was not possible be removed, and no other', async () => {
    const { id, chains } = await bankOf({ one: wav(noise), two: wav(other) });
    await markPassage(engineer, id, { fromS: 0, toS: 2 });
    const setId = await orderMatch(engineer, id, chains[0]!);
    await expect(removeFailed(engineer, id, setId)).rejects.toMatchObject({ status: 409 });
    await transaction((tx) => failClipSet(tx, setId, 'It could not be made.'));
    const stranger = await testEngineer('Nobody Known');
    await expect(removeFailed(stranger, id, setId)).rejects.toMatchObject({ status: 404 });
    await removeFailed(engineer, id, setId);
    expect((await matchOf(engineer, id)).sets).toEqual([]);
  });
});

import { randomUUID } from 'node:crypto';
import { xorshiftNoise } from '@/core/test/signals';
import { measure } from '@/core/loudness/meter';
import type { StageSettings } from '@/core/processing/stages';
import { decodeWav } from '@/core/wav/read';
import { encodeWav } from '@/core/wav/write';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { type ChainInput, chainShape, type Variant, variantWords } from '@/steps/chains/schema';
import {
  addChain,
  chainPlan,
  chainsOf,
  changeChain,
  copyOf,
  madeOf,
  recordedChainsOf,
} from '@/steps/chains/service';
import { chainCounts } from '@/steps/chains/store';
import { answer, clipFor, finishStage, join, viewFor } from '@/steps/listening/service';
import {
  bankWithTakes,
  CHAIN_NAMES,
  deliverTake,
  HERE,
  markPassage,
  openTestSitting,
  orderMatch,
  rendered,
  takeBytes,
} from '@/steps/test/bank';
import { listPassages } from '@/steps/comparisons/store';
import {
  alignmentOrder,
  checkedTakes,
  keepAlignments,
  pickOne,
  removeChain,
} from '@/steps/takes/service';
import { relateTakes, servedCopy } from '@/worker/tasks';
import { keepRenderedSet, matchOf, renderOrder, takesForMatch } from './service';

withTestDatabase();

let engineer: SignedIn;
let comparisonId: string;
let chains: string[];
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  ({ comparisonId, chainIds: chains } = await bankWithTakes(engineer));
  await markPassage(engineer, comparisonId, { fromS: 2, toS: 5 });
});

const thin: StageSettings = { kind: 'high-pass', hz: 400 };
const louder: StageSettings = { kind: 'level', db: 0.8 };
const toneOf = (chainId: string): StageSettings => ({
  kind: 'tone-match',
  chainId,
  phase: 'minimum',
  smoothing: 'third',
  limitDb: 9,
});

const variant = (name: string, ofChainId: string, stages: StageSettings[], takeId?: string) =>
  ({
    name,
    items: '',
    priceCents: null,
    shape: { kind: 'variant', ofChainId, takeId: takeId ?? null, stages },
  }) satisfies ChainInput;

async function match(): Promise<string> {
  const setId = await orderMatch(engineer, comparisonId, chains[0]!);
  const todo = await renderOrder(setId);
  const made = await rendered(todo!);
  if ('refused' in made) throw new Error(made.refused);
  await keepRenderedSet(todo!, made, NOON);
  return setId;
}

describe('a variant', () => {
  const ids: Record<string, string> = {};
  let setId: string;

  it('stands in one set with all others, of the take that its chain has there', async () => {
    const [first] = (await matchOf(engineer, comparisonId)).takes.filter(
      ({ chainId }) => chainId === chains[0],
    );
    const { channels: recorded, header } = await decodeWav(takeBytes(0));
    const quieter = encodeWav([recorded[0]!.map((x) => 0.6 * x)], header.format.sampleRateHz, 24);
    const second = await deliverTake(comparisonId, `${CHAIN_NAMES[0]}_take2.wav`, quieter);
    await pickOne(engineer, comparisonId, first!.id);
    ids.thin = await addChain(engineer, comparisonId, variant('thin', chains[0]!, [thin]));
    ids.louder = await addChain(engineer, comparisonId, variant('louder', chains[1]!, [louder]));
    ids.toned = await addChain(
      engineer,
      comparisonId,
      variant('like Halde', chains[0]!, [toneOf(chains[1]!)]),
    );
    ids.again = await addChain(engineer, comparisonId, variant('again', chains[0]!, [], second));
    setId = await match();
    const { clips, clipSet, alignments, outdated } = await matchOf(engineer, comparisonId, {
      clipSetId: setId,
    });
    expect(clips.map(({ chainId }) => chainId)).toEqual([...chains, ...Object.values(ids)]);
    const clipOf = (id: string) => clips.find(({ chainId }) => chainId === id)!;
    expect(clipOf(ids.thin).takeId).toBe(clipOf(chains[0]!).takeId);
    expect(clipOf(ids.again).takeId).toBe(second);
    // A variant lies exactly where its chain does: its take is laid once.
    expect(clipOf(ids.louder).delaySamples).toBe(clipOf(chains[1]!).delaySamples);
    expect(alignments.filter(({ borrowed }) => borrowed).map(({ chainId }) => chainId)).toEqual([
      ids.thin,
      ids.louder,
      ids.toned,
    ]);
    expect(clipOf(ids.thin).details).toMatchObject({
      variantOf: chains[0],
      stages: [thin],
      onPurposeDb: 0,
    });
    expect(clipOf(ids.toned).details.toning?.length).toBeGreaterThan(20);
    expect(clipOf(chains[0]!).details.stages).toBeUndefined();
    expect(clipSet?.facts?.worstResidualLu).toBeLessThan(0.05);
    for (const { chainId, afterLufs } of clips) {
      const wanted = clipSet!.facts!.targetLufs + (chainId === ids.louder ? 0.8 : 0);
      expect(Math.abs(afterLufs! - wanted)).toBeLessThan(0.05);
    }
    expect(outdated).toBe(false);
  });

  it('is heard by listeners as loud as was wanted, on the very bytes', async () => {
    const { token } = await openTestSitting(
      engineer,
      comparisonId,
      { seats: 1 },
      { clipSetId: setId, trials: 21 },
    );
    const arriving = { alias: 'Hanno', playback: 'headphones', consent: true } as const;
    const seat = await join(token, arriving, HERE, NOON);
    await finishStage(token, seat, { stage: 'level' });
    await finishStage(token, seat, { stage: 'practice' });
    const levels: Record<string, number[]> = {};
    for (let position = 1; position <= 21; position++) {
      const { clips } = await viewFor(token, seat);
      for (const { address } of clips) {
        const copy = await servedCopy((await clipFor(token, seat, address)).order);
        const { header, channels } = await decodeWav(copy);
        const [row] = await db().rows<{ chain: string }>(
          'SELECT chain_id AS chain FROM trial_clip WHERE address = $1',
          [address],
        );
        (levels[row!.chain] ??= []).push(measure(channels, header.format).integratedLufs!);
      }
      const given = { position, answer: { choice: 'first' as const } };
      await answer(
        token,
        seat,
        { ...given, key: randomUUID(), heardS: [3, 3], switches: 2, durationS: 9 },
        NOON,
      );
    }
    const common = levels[chains[0]!]![0]!;
    expect(Object.keys(levels).length).toBe(7);
    for (const [chain, heard] of Object.entries(levels)) {
      const wanted = common + (chain === ids.louder ? 0.8 : 0);
      for (const level of heard) expect(Math.abs(level - wanted)).toBeLessThan(0.05);
    }
  });

  it('that is changed leaves the clips as they were, and they say so', async () => {
    const before = await matchOf(engineer, comparisonId, { clipSetId: setId });
    const { version } = (await chainsOf(engineer, comparisonId)).find(({ id }) => id === ids.thin)!;
    const changed = { ...variant('thin', chains[0]!, [{ ...thin, hz: 300 }]), version };
    await changeChain(engineer, comparisonId, ids.thin!, changed);
    const after = await matchOf(engineer, comparisonId, { clipSetId: setId });
    expect(after.outdated).toBe(true);
    expect(after.clips).toEqual(before.clips);
  });

  it('is nothing to record, to count as a chain, or to learn about links from', async () => {
    const names = async () =>
      (await recordedChainsOf(engineer, comparisonId)).map(({ name }) => name);
    expect(await names()).toEqual(CHAIN_NAMES);
    expect(await chainCounts(db(), [comparisonId])).toEqual([{ comparisonId, chains: 3 }]);
    // A file that is called like one is not of it.
    const take = await deliverTake(comparisonId, 'thin_take3.wav', takeBytes(1));
    const { takes } = await matchOf(engineer, comparisonId);
    expect(takes.find(({ id }) => id === take)?.chainId).toBeNull();
  });

  it('goes with its chain into a copy of the comparison, without takes', async () => {
    const copy = await copyOf(engineer, comparisonId, NOON);
    const copied = await chainsOf(engineer, copy);
    const idOf = (name: string) => copied.find((chain) => chain.name === name)!.id;
    const shapeOf = (name: string) => copied.find((chain) => chain.name === name)!.shape;
    const [first, second] = CHAIN_NAMES as [string, string];
    expect(shapeOf('like Halde')).toEqual({
      kind: 'variant',
      ofChainId: idOf(first),
      takeId: null,
      takeAs: 'another take',
      stages: [toneOf(idOf(second))],
    });
    expect(shapeOf('again')).toMatchObject({ ofChainId: idOf(first), takeId: null });
  });
});

describe('refused', () => {
  const add = (shape: ChainInput['shape'], name = 'no') =>
    addChain(engineer, comparisonId, { name, items: '', priceCents: null, shape });
  const variantOf = (ofChainId: string, stages: StageSettings[] = []) => ({
    kind: 'variant' as const,
    ofChainId,
    stages,
  });

  it('are variants of nothing, of variants and of themselves, and blends with variants', async () => {
    const other = await bankWithTakes(engineer);
    await expect(add(variantOf(other.chainIds[0]!))).rejects.toThrow('needs another chain');
    const id = await add(variantOf(chains[0]!), 'plain');
    await expect(add(variantOf(id))).rejects.toThrow('is a variant itself');
    await expect(add(variantOf(chains[0]!, [toneOf(id)]))).rejects.toThrow('that is no variant');
    await expect(add({ kind: 'blend', otherChainId: id, otherDb: 0 })).rejects.toThrow(
      'cannot be a blend or variant',
    );
    const self = { ...variant('plain', id, []), version: 1 };
    await expect(changeChain(engineer, comparisonId, id, self)).rejects.toThrow('another chain');
    const own = { ...variant(CHAIN_NAMES[1]!, chains[0]!, []), version: 1 };
    await expect(changeChain(engineer, comparisonId, chains[1]!, own)).rejects.toThrow(
      'has takes of its own',
    );
  });

  it('is the removal of a chain that a variant is made with', async () => {
    const { chainIds, comparisonId: id } = await bankWithTakes(engineer);
    await addChain(engineer, id, variant('toned', chainIds[0]!, [toneOf(chainIds[1]!)]));
    for (const chain of chainIds.slice(0, 2)) {
      await expect(removeChain(engineer, id, chain, NOON)).rejects.toThrow('“toned” is a variant');
    }
    await removeChain(engineer, id, chainIds[2]!, NOON);
  });

  it('is a take of another chain or comparison: then there is nothing to hear', async () => {
    const mine = await bankWithTakes(engineer);
    const passageId = await markPassage(engineer, mine.comparisonId, { fromS: 1, toS: 3 });
    const theirs = (await matchOf(engineer, comparisonId)).takes[0]!.id;
    const second = (await matchOf(engineer, mine.comparisonId)).takes.find(
      ({ chainId }) => chainId === mine.chainIds[1],
    );
    for (const [i, takeId] of [theirs, second!.id].entries()) {
      const draft = variant(`lost ${i}`, mine.chainIds[0]!, [], takeId);
      await addChain(engineer, mine.comparisonId, draft);
    }
    const heard = await takesForMatch(db(), mine.comparisonId, passageId);
    expect(heard.map(({ chainId }) => chainId)).toEqual(mine.chainIds);
  });
});

it('costs what its chain costs, and differs from it by what was done to it', async () => {
  const { comparisonId: id } = await bankWithTakes(engineer);
  const price = 120_000;
  const base = await addChain(engineer, id, { name: 'Linden', items: '', priceCents: price });
  const thinned = await addChain(engineer, id, variant('Linden, thin', base, [thin]));
  expect((await madeOf(db(), id)).get(thinned)).toEqual({
    microphone: '',
    preamp: '',
    price,
  });
  const { chains: planned, setCost, equalCost } = await chainPlan(engineer, id);
  expect(planned.find(({ chain }) => chain.id === thinned)?.totalCents).toBe(price);
  // Nothing has to be bought twice, and nothing is as dear as itself.
  expect(setCost.allCents).toBe(price);
  expect(equalCost).toEqual([]);
});

it('lays a file that was rendered elsewhere by its waveform, and takes its latency out', async () => {
  const { comparisonId: id, chainIds } = await bankWithTakes(engineer);
  await markPassage(engineer, id, { fromS: 2, toS: 5 });
  const { channels, header } = await decodeWav(takeBytes(1));
  // Some program made it quieter, softened it and was 37 samples late.
  const [dry] = channels;
  const late = dry!.map((_, n) => 0.2 * (dry![n - 37] ?? 0) + 0.2 * (dry![n - 38] ?? 0));
  const bytes = encodeWav([late], header.format.sampleRateHz, 24);
  const bounce = await deliverTake(id, `${CHAIN_NAMES[1]} bounce.wav`, bytes);
  const other = xorshiftNoise(9, 0.2, dry!.length);
  const another = await deliverTake(
    id,
    `${CHAIN_NAMES[1]} take 2.wav`,
    encodeWav([other], header.format.sampleRateHz, 24),
  );
  // They came later than what they were made of.
  const later = new Date(NOON.getTime() + 60_000);
  await db().rows('UPDATE take SET created_at = $2 WHERE id = ANY ($1::uuid[])', [
    [bounce, another],
    later,
  ]);
  await keepAlignments(id, await relateTakes({ order: (await alignmentOrder(id))! }));
  const takes = await checkedTakes(db(), id);
  const own = takes.find(({ chainId, id: one }) => chainId === chainIds[1] && one !== bounce)!;
  expect(takes.find(({ id: one }) => one === bounce)!.performance).toEqual({
    number: 1,
    ground: 'sound',
    renderedFrom: own.id,
  });
  expect(takes.filter(({ foremost }) => foremost).map(({ id: one }) => one)).not.toContain(bounce);
  const made = await addChain(engineer, id, variant('rendered', chainIds[1]!, [], bounce));
  const again = await addChain(engineer, id, variant('again', chainIds[1]!, [], another));
  const passageId = (await listPassages(db(), id))[0]!.id;
  const heard = await takesForMatch(db(), id, passageId);
  const laid = (chainId: string) => heard.find((take) => take.chainId === chainId)?.alignment;
  expect([laid(chainIds[1]!), laid(made), laid(again)]).toEqual([
    'performance',
    'performance',
    'onset',
  ]);
  const leftOut = [again];
  const setId = await orderMatch(engineer, id, chainIds[0]!, { leftOut });
  const todo = await renderOrder(setId);
  const done = await rendered(todo!);
  if ('refused' in done) throw new Error(done.refused);
  await keepRenderedSet(todo!, done, NOON);
  const { clips } = await matchOf(engineer, id, { clipSetId: setId });
  const clipOf = (chainId: string) => clips.find((clip) => clip.chainId === chainId)!;
  // Half a sample more: the two taps it was softened with.
  const latency = clipOf(made).delaySamples - clipOf(chainIds[1]!).delaySamples;
  expect(Math.abs(latency - 37.5)).toBeLessThan(0.2);
  expect(Math.abs(clipOf(made).afterLufs! - clipOf(chainIds[1]!).afterLufs!)).toBeLessThan(0.05);
});

it('says what its take is beside the one of its chain', () => {
  const takeId = '0190a3f0-3a50-7a51-9f2c-0d2f4bb1c111';
  // As kept before a rendered file was told from a second take.
  const kept = chainShape.parse({ kind: 'variant', ofChainId: takeId, takeId }) as Variant;
  expect(variantWords(kept, String)).toBe('another take');
  const rendered: Variant = { ...kept, takeAs: 'rendered elsewhere', stages: [thin] };
  expect(variantWords(rendered, String)).toBe('rendered elsewhere, high-pass 400 Hz');
  expect(variantWords({ ...rendered, takeId: null, stages: [] }, String)).toBe('as it is');
});

import { FloatClip } from '@/core/wav/float-clip';
import type { RenderedSet, RenderOrder } from '@/steps/match/service';
import type { Run } from './jobs/job';
import { renderSet } from './rendering';
import type { Refusal } from './tasks/reporting';

type Take = RenderOrder['takes'][number];

const take = (audioId: number): Take => ({
  takeId: `take ${audioId}`,
  chainId: `chain ${audioId}`,
  chainName: `Chain ${audioId}`,
  audioId,
  channels: null,
  alignment: 'performance',
  delayMs: 0,
  blend: null,
  stages: [],
  variantOf: null,
  recordedGainDb: null,
  recordedKnob: '',
  testLufs: null,
});

const orderOf = (clipSetId: string, change: Partial<RenderOrder> = {}): RenderOrder => ({
  clipSetId,
  method: 'loudness',
  recipe: { context: { kind: 'raw' }, offsets: {}, leftOut: [] },
  referenceIndex: 0,
  passageFromS: 1,
  passageToS: 2,
  takes: [take(1), take(2), take(3)],
  backing: null,
  seed: 1,
  ...change,
});

const { bytes } = FloatClip.of([new Float64Array(10)], 48000);
const made = { result: { clips: [{ afterLufs: -20 }] }, channels: 2 };

function answerOf(name: string): unknown {
  if (name === 'alignTake') return { bytes };
  return name === 'renderClips' ? made : [{ bytes, loudnessLufs: -20, truePeakDbtp: -9 }];
}

/** Threads that only note what they were asked, and answer when they are let. */
function threads(answer: (name: string, index: number) => unknown = answerOf) {
  const asked: string[] = [];
  let go: () => void = () => undefined;
  const gate = new Promise<void>((resolve) => (go = resolve));
  const run = (async (name: string, task: { index?: number }) => {
    asked.push(name);
    await gate;
    return answer(name, task.index ?? -1);
  }) as Run;
  return { asked, run, go };
}

const count = (asked: readonly string[], name: string) =>
  asked.filter((one) => one === name).length;

it('contexts of one passage align its takes once, whether they come together or later', async () => {
  const { asked, run, go } = threads();
  const report = () => undefined;
  const sets = ['a', 'b', 'c'].map((id) =>
    renderSet(orderOf(id, { passageFromS: 1.25 }), run, report),
  );
  go();
  await Promise.all(sets);
  await renderSet(orderOf('d', { passageFromS: 1.25 }), run, report);
  expect([count(asked, 'alignTake'), count(asked, 'renderClips')]).toEqual([3, 4]);
});

it.each([
  ['another passage', { passageToS: 3 }],
  ['another take', { takes: [take(1), take(2), take(4)] }],
  ['another reference', { referenceIndex: 1 }],
  ['a printed tone', { method: 'tone' }],
] as [string, Partial<RenderOrder>][])('%s is aligned anew', async (_, change) => {
  const { asked, run, go } = threads();
  go();
  await renderSet(orderOf('a'), run, () => undefined);
  await renderSet(orderOf('b', change), run, () => undefined);
  expect(count(asked, 'alignTake')).toBe(6);
});

it('a take that cannot be aligned ends the set with its sentence, and is tried again the next time', async () => {
  const refusal: Refusal = { refused: 'Chain 2 is another performance.' };
  const { asked, run, go } = threads((name, index) => (index === 1 ? refusal : answerOf(name)));
  go();
  const order = orderOf('a', { passageFromS: 1.5 });
  expect(await renderSet(order, run, () => undefined)).toEqual(refusal);
  expect(await renderSet(order, run, () => undefined)).toEqual(refusal);
  expect([count(asked, 'alignTake'), count(asked, 'renderClips')]).toEqual([6, 0]);
});

it('a thread that dies fails the set, and the next try aligns anew', async () => {
  let alive = false;
  const { asked, run, go } = threads((name) => {
    if (!alive) throw new Error('the thread ended');
    return answerOf(name);
  });
  go();
  const order = orderOf('a', { passageFromS: 1.75 });
  await expect(renderSet(order, run, () => undefined)).rejects.toThrow('the thread ended');
  alive = true;
  expect(await renderSet(order, run, () => undefined)).toMatchObject(made);
  expect(count(asked, 'alignTake')).toBe(6);
});

it('without a reference nothing is begun', async () => {
  const { asked, run } = threads();
  const set: RenderedSet | Refusal = await renderSet(
    orderOf('a', { referenceIndex: -1 }),
    run,
    () => undefined,
  );
  expect(set).toMatchObject({ refused: expect.stringContaining('choose another') as string });
  expect(asked).toEqual([]);
});

it('tells how far it is: aligning first, then the rest, never backwards', async () => {
  const told: number[] = [];
  const run = (async (name: string, _task: object, report?: (share: number) => void) => {
    for (const share of [0, 0.5, 1]) report?.(share);
    return Promise.resolve(answerOf(name));
  }) as Run;
  await renderSet(orderOf('a', { passageFromS: 1.9 }), run, (share) => told.push(share));
  expect(told.at(-1)).toBe(1);
  expect(told).toEqual([...told].sort((a, b) => a - b));
  expect(told.length).toBe(6);
});

it('sets that wait for the same takes are told how far these are, too', async () => {
  const { run, go } = threads();
  const told: Record<string, number[]> = { a: [], b: [] };
  const sets = ['a', 'b'].map((id) =>
    renderSet(orderOf(id, { passageFromS: 1.95 }), run, (share) => told[id]!.push(share)),
  );
  go();
  await Promise.all(sets);
  // Three takes, aligned in the first three tenths of the way.
  for (const shares of Object.values(told)) {
    expect(shares.map((share) => share.toFixed(2))).toEqual(['0.10', '0.20', '0.30']);
  }
});

it('aligned takes are forgotten a minute after they were last used', async () => {
  jest.useFakeTimers();
  try {
    const { asked, run, go } = threads();
    go();
    const order = orderOf('a', { passageFromS: 1.97 });
    const again = () => renderSet(order, run, () => undefined);
    await again();
    jest.advanceTimersByTime(50_000);
    await again();
    jest.advanceTimersByTime(50_000);
    await again();
    expect(count(asked, 'alignTake')).toBe(3);
    jest.advanceTimersByTime(61_000);
    await again();
    expect(count(asked, 'alignTake')).toBe(6);
  } finally {
    jest.useRealTimers();
  }
});

it('the phrase for practice is played once for each rate, whatever is matched', async () => {
  const asked: number[] = [];
  const run = (async (name: string, task: { sampleRateHz?: number }) => {
    if (task.sampleRateHz) asked.push(task.sampleRateHz);
    const take = { bytes: FloatClip.of([new Float64Array(10)], 96000).bytes };
    return Promise.resolve(name === 'alignTake' ? take : answerOf(name));
  }) as Run;
  for (const passageToS of [4, 5]) {
    const set = await renderSet(orderOf('a', { passageToS }), run, () => undefined);
    expect(set).toMatchObject({ training: [{ length: 44 + 2 * 4 * 10 }] });
  }
  expect(asked).toEqual([96000]);
});

it('variants of one take lie where it lies: it is aligned once, as the reference where it is that', async () => {
  const { asked, run, go } = threads();
  const indices: number[] = [];
  const noting = ((name: string, task: { index?: number }) => {
    if (name === 'alignTake') indices.push(task.index ?? -1);
    return run(name, task);
  }) as Run;
  go();
  const variant = (of: Take, id: string): Take => ({
    ...of,
    chainId: id,
    chainName: id,
    stages: [{ kind: 'high-pass', hz: 80 }],
    variantOf: of.chainId,
  });
  const takes = [variant(take(2), 'thin'), take(1), take(2), variant(take(1), 'dark')];
  await renderSet(orderOf('a', { takes, referenceIndex: 2 }), noting, () => undefined);
  expect(count(asked, 'alignTake')).toBe(2);
  expect(indices).toEqual([2, 1]);
});

it('the phrase that listeners set their level by is as loud as the loudest clip', async () => {
  const samples = new Float64Array(1000).fill(0.1);
  const phrase = {
    bytes: FloatClip.of([samples], 48000).bytes,
    loudnessLufs: -20,
    truePeakDbtp: -9,
  };
  const run = (async (name: string) => {
    if (name === 'playTrainingPhrases') return Promise.resolve([phrase]);
    const clips = [{ afterLufs: -40 }, { afterLufs: -26 }, { afterLufs: -55 }];
    return Promise.resolve(
      name === 'renderClips' ? { result: { clips }, channels: 1 } : { bytes: phraseless.bytes },
    );
  }) as Run;
  // A rate of its own, so that the phrase is not one that was played before.
  const phraseless = FloatClip.of([new Float64Array(10)], 32000);
  const set = await renderSet(orderOf('a', { passageFromS: 1.99 }), run, () => undefined);
  if ('refused' in set) throw new Error(set.refused);
  const heard = FloatClip.from(set.training[0]!);
  const [first] = [new Float64Array(1)];
  heard.read(500, [first]);
  expect(20 * Math.log10(first[0]! / 0.1)).toBeCloseTo(-6, 4);
});

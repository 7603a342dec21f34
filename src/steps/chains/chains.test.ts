import { CAUTIONS } from '@/core/chain/cautions';
import { PATTERN_NAMES, type PatternName } from '@/core/chain/specs';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { one } from '@/platform/one';
import {
  changeComparison,
  comparisonOf,
  createComparison,
  removeComparison,
  restoreComparison,
} from '@/steps/comparisons/service';
import { brief } from '@/steps/comparisons/schema';
import { gridCells } from './grid';
import { gridOrder } from './schema';
import { addGear, gearOf, removeGear } from '@/steps/gear/service';
import { bringChainBack, removeChain } from '@/steps/takes/service';
import { bankWithClips, openTestSitting } from '@/steps/test/bank';
import { seedGear } from '@/worker/demo-gear';
import { SCENARIO } from '../../../demo/scenario';
import {
  acknowledgeCaution,
  addChain,
  addGrid,
  copyOf,
  chainPlan,
  chainsOf,
  changeChain,
  chooseReference,
  madeOf,
} from './service';

withTestDatabase();

const CARDIOID: PatternName = 'cardioid';
const DRAFT = { title: 'Test', question: '', sourceName: 'Clarinet', passageName: 'tune' };

let engineer: SignedIn;
let gear: Map<string, string>;
let id: string;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  gear = await seedGear(engineer, NOON);
});
beforeEach(async () => {
  id = await createComparison(engineer, DRAFT, NOON);
});

const items = (...names: string[]) =>
  names.map((name) => ({ gearId: gear.get(name) ?? '', settings: {} }));

function made(name: string, names: string[], more: Record<string, unknown> = {}) {
  return { name, items: '', priceCents: null, gear: items(...names), ...more };
}

async function keepBrief(comparisonId: string, written: unknown): Promise<void> {
  const { version } = await comparisonOf(engineer, comparisonId);
  await changeComparison(
    engineer,
    comparisonId,
    { ...DRAFT, brief: brief.parse(written), version },
    NOON,
  );
}

describe('chains made of gear', () => {
  it('are worked out: level, price with accessories, what is short and what helps', async () => {
    await addChain(
      engineer,
      id,
      made('Kern 40 › Linie 2', ['Kern 40', 'Linie 2', 'Steg 8'], { distanceM: 0.24 }),
    );
    await addChain(
      engineer,
      id,
      made('Esker 7 › Pfad 4', ['Esker 7', 'Pfad 4', 'Steg 8'], { distanceM: 1 }),
    );
    const view = await chainPlan(engineer, id);
    const [kern, esker] = view.chains;
    // 620 + 65 + 35 (mount and ring) + 420 + 180.
    expect(kern!.totalCents).toBe(132_000);
    expect(kern!.bracket).toBe('1000 to 2000');
    expect(kern!.feasible).toBe(true);
    // 74 dB at 1 m into -58 dB re 1 V/Pa: -58 + 74 - 94 + 2.22 = -75.8 dBu, and loading; 54 dB at most.
    expect(esker!.feasible).toBe(false);
    expect(esker!.finding).toMatch(/^2[34] dB short: no more gain\.$/);
    expect(esker!.remedies.map(({ text }) => text)).toEqual([
      'Go closer, to 6 cm; the low end and the balance change with it.',
      'Put Hebel 25 after the microphone.',
    ]);
    expect(view.sourceAssumed).toEqual(['74 dB at 1 m', 'peaks 14 dB over the average']);
    expect(view.fairness.unfair[0]!.text).toContain('Three things change');
    expect(view.fairness.missing).toEqual([
      { microphone: 'Kern 40', preamp: 'Pfad 4' },
      { microphone: 'Esker 7', preamp: 'Linie 2' },
    ]);
    // What is shared is bought once: the converter.
    expect(view.setCost.allCents).toBe(132_000 + 24_000 + 1_500 + 16_000);
  });

  it('stay beside chains that are written in words', async () => {
    await addChain(engineer, id, { name: 'In words', items: 'a microphone', priceCents: 5_000 });
    const [view] = (await chainPlan(engineer, id)).chains;
    expect(view).toMatchObject({
      ladder: null,
      finding: null,
      totalCents: 5_000,
      bracket: 'under 250',
    });
  });

  it('come as a grid, without what is there already', async () => {
    await addChain(engineer, id, made('Mine', ['Kern 40', 'Linie 2']));
    const order = {
      microphoneIds: [gear.get('Kern 40') ?? '', gear.get('Ostra R1') ?? ''],
      preampIds: [gear.get('Linie 2') ?? '', gear.get('Tarn 1') ?? ''],
      sharedIds: [gear.get('Steg 8') ?? ''],
      distancesM: [0.3],
    };
    expect(await addGrid(engineer, id, order)).toBe(3);
    expect(await addGrid(engineer, id, order)).toBe(0);
    const chains = await chainsOf(engineer, id);
    expect(chains.map(({ name }) => name)).toEqual([
      'Mine',
      'Kern 40 › Tarn 1',
      'Ostra R1 › Linie 2',
      'Ostra R1 › Tarn 1',
    ]);
    expect(chains[1]!.gear.length).toBe(3);
    expect(chains[1]!.distanceM).toBe(0.3);
  });

  it('come as a grid over patterns, switches and distances, told which cannot be', async () => {
    const wehr = gear.get('Wehr S3') ?? '';
    const { specs } = (await gearOf(engineer)).find(({ id: one }) => one === wehr)!;
    const has = specs.patterns![0]!;
    const lacks = PATTERN_NAMES.find((pattern) => !specs.patterns!.includes(pattern))!;
    const order = {
      microphoneIds: [wehr],
      preampIds: [gear.get('Tarn 1') ?? ''],
      sharedIds: [],
      patterns: [has, lacks],
      switchOn: 'preamp' as const,
      positions: ['low Z', 'high Z'],
      distancesM: [0.2, 0.125],
    };
    expect(await addGrid(engineer, id, order)).toBe(4);
    const { lacking } = gridCells(gridOrder.parse(order), () => ({
      name: 'Wehr S3',
      patterns: specs.patterns,
    }));
    expect(lacking).toEqual([`Wehr S3 has no ${lacks}.`]);
    const chains = await chainsOf(engineer, id);
    expect(chains.map(({ name }) => name)).toEqual([
      `Wehr S3 › Tarn 1, ${has}, low Z, 20 cm`,
      `Wehr S3 › Tarn 1, ${has}, low Z, 12.5 cm`,
      `Wehr S3 › Tarn 1, ${has}, high Z, 20 cm`,
      `Wehr S3 › Tarn 1, ${has}, high Z, 12.5 cm`,
    ]);
    expect(chains[1]!.gear.map(({ settings }) => settings)).toEqual([
      { pattern: has },
      { switches: 'low Z' },
    ]);
    expect(chains[1]!.distanceM).toBe(0.125);
    // One of them under a name of its own is known by what it is made of; the others stay.
    const { version, position, id: first, ...draft } = chains[0]!;
    expect(position).toBe(1);
    await changeChain(engineer, id, first, { ...draft, name: 'Near', version });
    expect(await addGrid(engineer, id, order)).toBe(0);
    expect(await addGrid(engineer, id, { ...order, distancesM: [0.2, 0.4] })).toBe(2);
  });

  it('refuse a grid over a switch that nothing has, and one that is too large', async () => {
    const wehr = gear.get('Wehr S3') ?? '';
    const bare = { microphoneIds: [wehr], preampIds: [], sharedIds: [] };
    const [linie] = (await gearOf(engineer)).filter(({ name }) => name === 'Linie 2');
    const longId = await addGear(engineer, { ...linie!, name: 'Linie 2 '.repeat(6).trim() }, NOON);
    expect(
      gridOrder.safeParse({ ...bare, switchOn: 'preamp', positions: ['up'] }).error?.issues[0],
    ).toMatchObject({ message: 'Choose the preamps whose switch has these positions.' });
    expect(gridOrder.safeParse({ ...bare, distancesM: [0] }).success).toBe(false);
    const six = [0.1, 0.2, 0.3, 0.4, 0.5, 0.6];
    const large = { ...bare, positions: ['1', '2', '3', '4', '5'], distancesM: six };
    await expect(addGrid(engineer, id, large)).rejects.toThrow('30 chains; a comparison holds 24');
    // What is named twice is meant once.
    const twice = { ...bare, patterns: [CARDIOID, CARDIOID], distancesM: [0.2, 0.2] };
    expect(await addGrid(engineer, id, twice)).toBe(1);
    // One name that is too long stops all of it.
    const wordy = { ...bare, positions: ['up', 'y'.repeat(40)], preampIds: [longId] };
    await expect(addGrid(engineer, id, wordy)).rejects.toThrow('Nothing was added.');
    expect(await chainsOf(engineer, id)).toHaveLength(1);
  });

  it('tell the second of two writers, who loses nothing', async () => {
    const chainId = await addChain(engineer, id, made('Shared', ['Kern 40', 'Linie 2']));
    await changeChain(engineer, id, chainId, {
      ...made('Shared', ['Kern 40', 'Tarn 1']),
      version: 1,
    });
    await expect(
      changeChain(engineer, id, chainId, { ...made('Mine', ['Moor D1']), version: 1 }),
    ).rejects.toThrow('another window');
    expect((await chainsOf(engineer, id))[0]!.gear[1]!.gearId).toBe(gear.get('Tarn 1'));
  });

  it('refuse gear of others and blends with themselves or nothing', async () => {
    const stranger = await testEngineer('Stranger');
    const theirs = await createComparison(stranger, DRAFT, NOON);
    await expect(addChain(stranger, theirs, made('Theft', ['Kern 40']))).rejects.toThrow(
      'not here',
    );
    const a = await addChain(engineer, id, made('A', ['Kern 40']));
    const blend = (otherChainId: string) => ({
      shape: { kind: 'blend', otherChainId, otherDb: 0 } as const,
    });
    await expect(
      changeChain(engineer, id, a, { ...made('A', ['Kern 40']), ...blend(a), version: 1 }),
    ).rejects.toThrow('another chain');
    await addChain(engineer, id, { ...made('B', ['Ostra R1']), ...blend(a) });
    await expect(removeChain(engineer, id, a, NOON)).rejects.toThrow('“B” blends this chain in');
  });

  it('count a stereo pair’s microphone twice', async () => {
    const pair = { kind: 'pair', spacingM: 0.17, openingDeg: 110 } as const;
    await addChain(engineer, id, { ...made('Pair', ['Wehr S3', 'Linie 2']), shape: pair });
    expect((await chainPlan(engineer, id)).chains[0]!.totalCents).toBe(2 * 39_000 + 42_000);
  });

  it('come back when a deletion is undone; their gear cannot go while they use it', async () => {
    const chainId = await addChain(engineer, id, made('Gone', ['Saum 2']));
    await expect(removeGear(engineer, gear.get('Saum 2') ?? '', NOON)).rejects.toThrow(
      'The chain “Gone” of “Test” uses this item',
    );
    await removeChain(engineer, id, chainId, NOON);
    expect(await chainsOf(engineer, id)).toEqual([]);
    await bringChainBack(engineer, id, chainId);
    expect((await chainsOf(engineer, id))[0]!.gear.length).toBe(1);
  });
});

describe('cautions', () => {
  it('are all shown by the demo plan, and stay when they were read', async () => {
    for (const { name, items: names, distanceM } of SCENARIO.plan.chains) {
      await addChain(engineer, id, made(name, names, { distanceM }));
    }
    await keepBrief(id, SCENARIO.plan.brief);
    const before = await chainPlan(engineer, id);
    expect(before.cautions.map(({ caution }) => caution.id).sort()).toEqual(
      CAUTIONS.map((caution) => caution.id).sort(),
    );
    await acknowledgeCaution(engineer, id, 'valve-supply', NOON);
    await acknowledgeCaution(engineer, id, 'valve-supply', NOON);
    const after = await chainPlan(engineer, id);
    expect(after.cautions.length).toBe(before.cautions.length);
    expect(after.cautions.filter(({ read }) => read).map(({ caution }) => caution.id)).toEqual([
      'valve-supply',
    ]);
    expect(after.chains.filter(({ feasible }) => !feasible).map(({ chain }) => chain.name)).toEqual(
      ['Esker 7, far › Pfad 4'],
    );
  });
});

describe('the reference', () => {
  it('keeps its history with reasons', async () => {
    const a = await addChain(engineer, id, made('A', ['Kern 40']));
    const b = await addChain(engineer, id, made('B', ['Ostra R1']));
    await chooseReference(engineer, id, { chainId: a, reason: 'known' }, NOON);
    await chooseReference(engineer, id, { chainId: a, reason: 'twice is nothing' }, NOON);
    await chooseReference(engineer, id, { chainId: b, reason: 'A was sold' }, NOON);
    const view = await chainPlan(engineer, id);
    expect(view.chains.map(({ isReference }) => isReference)).toEqual([false, true]);
    const here = view.references.filter(({ comparison }) => comparison === 'Test').slice(0, 2);
    expect(here.map(({ chainName, reason }) => [chainName, reason])).toEqual([
      ['B', 'A was sold'],
      ['A', 'known'],
    ]);
  });
});

describe('the question', () => {
  it('dates the prediction when it changes, and not otherwise', async () => {
    await keepBrief(id, {
      prediction: { favouriteChainId: null, toldApart: 'hardly', remark: 'x' },
    });
    expect((await comparisonOf(engineer, id)).brief.predictedAt).toBe(NOON.toISOString());
    const { version, brief: kept } = await comparisonOf(engineer, id);
    const later = new Date(NOON.getTime() + 1000);
    await changeComparison(
      engineer,
      id,
      { ...DRAFT, brief: { ...kept, crestDb: 12 }, version },
      later,
    );
    expect((await comparisonOf(engineer, id)).brief.predictedAt).toBe(NOON.toISOString());
  });

  it.each([
    [{ levelAt1MDb: 1e9 }, 'The level at 1 m lies between 20 and 150 dB.'],
    [{ budgetCents: 1e12 }, 'too high to be true'],
    [{ smallestSharePct: 20 }, 'The smallest difference lies between'],
    [{ headphoneMinutes: -4 }, '0'],
  ])('%j is refused', (written, message) => {
    expect(() => brief.parse(written)).toThrow(message);
  });

  it('can be copied with chains and blends, without takes, answers and prediction', async () => {
    const a = await addChain(engineer, id, made('A', ['Kern 40', 'Linie 2']));
    await addChain(engineer, id, {
      ...made('B', ['Ostra R1']),
      shape: { kind: 'blend', otherChainId: a, otherDb: -3 },
    });
    await keepBrief(id, {
      levelAt1MDb: 80,
      prediction: { favouriteChainId: a, toldApart: null, remark: '' },
    });
    const copy = await copyOf(engineer, id, NOON);
    const { title, brief: copied } = await comparisonOf(engineer, copy);
    expect(title).toBe('Test (copy)');
    expect(copied.levelAt1MDb).toBe(80);
    expect(copied.prediction.favouriteChainId).toBeNull();
    expect(copied.predictedAt).toBeNull();
    const chains = await chainsOf(engineer, copy);
    expect(chains.map(({ name }) => name)).toEqual(['A', 'B']);
    expect(chains[0]!.id).not.toBe(a);
    expect(chains[0]!.gear).toEqual((await chainsOf(engineer, id))[0]!.gear);
    expect(chains[1]!.shape).toMatchObject({
      kind: 'blend',
      otherChainId: chains[0]!.id,
      otherDb: -3,
    });
  });

  it('can be removed and brought back; not while answers or an open sitting depend on it', async () => {
    await removeComparison(engineer, id, NOON);
    await expect(comparisonOf(engineer, id)).rejects.toThrow('not here');
    await restoreComparison(engineer, id);
    expect((await comparisonOf(engineer, id)).title).toBe('Test');
    const bank = await bankWithClips(engineer);
    await openTestSitting(engineer, bank.comparisonId);
    await expect(removeComparison(engineer, bank.comparisonId, NOON)).rejects.toThrow(
      'is open; close it first',
    );
    const copy = await copyOf(engineer, bank.comparisonId, NOON);
    const { count } = await one(
      db().rows<{ count: number }>('SELECT count(*) AS count FROM take WHERE comparison_id = $1', [
        copy,
      ]),
    );
    expect(count).toBe(0);
  });
});

describe('what chains are made of, for their results', () => {
  const price = async (...names: string[]) => {
    const rows = await db().rows<{ sum: string }>(
      'SELECT sum(price_cents) AS sum FROM gear WHERE id = ANY($1::uuid[])',
      [names.map((name) => gear.get(name) ?? null)],
    );
    return Number(rows[0]!.sum);
  };

  it('names the first microphone and preamp, and the whole price with what the gear needs', async () => {
    const chain = await addChain(engineer, id, made('One', ['Kern 40', 'Linie 2', 'Steg 8']));
    const plan = await chainPlan(engineer, id);
    const own = (await madeOf(db(), id)).get(chain);
    expect(own).toMatchObject({ microphone: 'Kern 40', preamp: 'Linie 2' });
    // The same as at Chains, where each item and accessory is listed.
    expect(own?.price).toBe(plan.chains[0]?.totalCents);
    expect(own?.price).toBeGreaterThanOrEqual(await price('Kern 40', 'Linie 2', 'Steg 8'));
  });

  it('counts a pair’s second microphone, and both chains of a blend', async () => {
    const [single, other] = [
      await addChain(engineer, id, made('Single', ['Kern 40', 'Linie 2'])),
      await addChain(engineer, id, made('Other', ['Ostra R1', 'Tarn 1'])),
    ];
    const shape = { kind: 'pair' as const, spacingM: 0.17, openingDeg: 110 };
    const pair = await addChain(engineer, id, made('Pair', ['Kern 40', 'Linie 2'], { shape }));
    const blend = await addChain(engineer, id, {
      ...made('Blend', []),
      shape: { kind: 'blend', otherChainId: other, firstChainId: single, otherDb: -6 },
    });
    const all = await madeOf(db(), id);
    const priceOf = (chain: string) => all.get(chain)?.price ?? Number.NaN;
    expect(priceOf(pair) - priceOf(single)).toBe(await price('Kern 40'));
    // What both need is bought once.
    const planned = (await chainPlan(engineer, id)).chains.find(({ chain }) => chain.id === blend);
    expect(priceOf(blend)).toBe(planned?.totalCents);
    expect(priceOf(blend)).toBeGreaterThan(Math.max(priceOf(single), priceOf(other)));
    expect(priceOf(blend)).toBeLessThanOrEqual(priceOf(single) + priceOf(other));
  });

  it('knows no price where an item has none, and takes the written one where no gear is named', async () => {
    await db().rows('UPDATE gear SET price_cents = NULL WHERE id = $1', [
      gear.get('Pfad 4') ?? null,
    ]);
    const open = await addChain(engineer, id, made('Open', ['Kern 40', 'Pfad 4']));
    const words = await addChain(engineer, id, {
      name: 'Words',
      items: 'a microphone',
      priceCents: 5_000,
    });
    const all = await madeOf(db(), id);
    expect(all.get(open)).toEqual({ microphone: 'Kern 40', preamp: 'Pfad 4', price: null });
    expect(all.get(words)).toEqual({ microphone: '', preamp: '', price: 5_000 });
  });
});

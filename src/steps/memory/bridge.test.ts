import { Random } from '@/core/signal/random';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { changeChain, chainsOf } from '@/steps/chains/service';
import { addGear } from '@/steps/gear/service';
import { analysed, answeredSitting } from '@/steps/test/answered';
import { bankWithClips } from '@/steps/test/bank';
import { plainGear } from '@/steps/test/gear';
import { readSittingsTogether } from '@/worker/tasks';
import { bridgeOver } from './bridge';

withTestDatabase();

let engineer: SignedIn;
const gear: Record<string, string> = {};
/** By comparison: its chains, each of the gear of one name. */
const made: { comparisonId: string; chainIds: string[]; sittingId: string }[] = [];

async function comparisonOf(
  names: readonly string[],
  liking: (ids: readonly string[], listener: number) => string[],
  seed: number,
) {
  const bank = await bankWithClips(engineer);
  const chains = await chainsOf(engineer, bank.comparisonId);
  for (const [i, { id, ...chain }] of chains.entries()) {
    const held = [{ gearId: gear[names[i]!]!, settings: {} }];
    await changeChain(engineer, bank.comparisonId, id, { ...chain, name: names[i]!, gear: held });
  }
  const sittingId = await answeredSitting(engineer, bank.comparisonId, {
    aliases: Array.from({ length: 10 }, (_, i) => `L${seed} ${i}`),
    liking: (listener) => liking(bank.chainIds, listener),
    parts: [{ trials: 6 }],
    random: new Random(seed),
  });
  await analysed(sittingId);
  made.push({ comparisonId: bank.comparisonId, chainIds: bank.chainIds, sittingId });
}
const bridge = (through: string | null = null) =>
  bridgeOver(engineer, through, readSittingsTogether);

beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  for (const name of ['Link', 'Best', 'Worst', 'Third', 'Fourth']) {
    gear[name] = await addGear(engineer, plainGear(name, { priceCents: 10_000 }), NOON);
  }
});

describe('comparisons that a chain links', () => {
  it('are none while it was heard in one only', async () => {
    expect(await bridge()).toMatchObject({ links: [], through: null, bridged: null });
    // Most like the link better than either; of the others nobody has a common opinion.
    await comparisonOf(
      ['Link', 'Worst', 'Third'],
      ([link, worst, third], i) =>
        i % 5 === 0
          ? [third!, worst!, link!]
          : i % 2
            ? [link!, worst!, third!]
            : [link!, third!, worst!],
      3,
    );
    const { refusal, links } = await bridge();
    expect(links).toEqual([]);
    expect(refusal).toContain('No chain was heard blind in two comparisons');
  });

  it('are set against each other: chains that never met, through the one that both heard', async () => {
    await comparisonOf(
      ['Fourth', 'Best', 'Link'],
      ([fourth, best, link], i) =>
        i % 5 === 0
          ? [link!, fourth!, best!]
          : i % 2
            ? [best!, link!, fourth!]
            : [best!, fourth!, link!],
      4,
    );
    const { links, bridged } = await bridge();
    expect(links).toMatchObject([{ chain: 'Link', comparisons: 2 }]);
    expect(bridged?.listeners).toBe(20);
    const against = new Map(
      bridged?.read.bridge.pair?.chains.map(({ chain, difference }) => [chain, difference]),
    );
    expect([...against.keys()].sort()).toEqual(['Best', 'Fourth', 'Third', 'Worst']);
    // Eight of ten like the best more than the link, and the link more than the worst.
    expect(against.get('Best')).toBeGreaterThan(0.5);
    expect(against.get('Worst')).toBeLessThan(-0.5);
    expect(bridged?.sittings.map(({ id }) => id).sort()).toEqual(
      made.map(({ sittingId }) => sittingId).sort(),
    );
    // Both are called the same: they are counted.
    expect(new Set(bridged?.sittings.map(({ title }) => title)).size).toBe(2);
  });

  it('leave out what was told or broken, and refuse what cannot be told', async () => {
    const { sittingId, comparisonId, chainIds } = made[1]!;
    await db().rows(`UPDATE sitting SET reveal = 'after each part' WHERE id = $1`, [sittingId]);
    expect((await bridge()).links).toEqual([]);
    await db().rows(`UPDATE sitting SET reveal = 'after closing' WHERE id = $1`, [sittingId]);
    expect((await bridge()).links).toHaveLength(1);

    // Two of the same microphone are not the one.
    const shape = (kind: string) =>
      db().rows(`UPDATE chain SET shape = jsonb_build_object('kind', $2::text) WHERE id = $1`, [
        chainIds[2]!,
        kind,
      ]);
    await shape('pair');
    expect((await bridge()).links).toEqual([]);
    await shape('single');

    const [chain] = await chainsOf(engineer, comparisonId);
    const { id, ...rest } = chain!;
    const held = [{ gearId: gear.Link!, settings: {} }];
    await changeChain(engineer, comparisonId, id, { ...rest, gear: held });
    const twice = await bridge(chainIds[2]);
    expect(twice.bridged).toBeNull();
    expect(twice.refusal).toContain('in one chain alone');
  });

  it('are of one’s own studio', async () => {
    const stranger = await testEngineer('Looking On');
    expect(await bridgeOver(stranger, made[0]!.chainIds[0]!, readSittingsTogether)).toMatchObject({
      links: [],
      bridged: null,
    });
  });
});

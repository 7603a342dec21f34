import { randomUUID } from 'node:crypto';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { addChain, chainsOf } from '@/steps/chains/service';
import { bankWithClips, CHAIN_NAMES, rendered } from '@/steps/test/bank';
import { askOnlyEq } from './only-eq';
import { onlyEqOrder } from './schema';
import { keepRenderedSet, matchOf, renderOrder } from './service';

withTestDatabase();

let engineer: SignedIn;
let id: string;
let passageId: string;
let kern: string;
let halde: string;
let ostra: string;

beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  const bank = await bankWithClips(engineer);
  id = bank.comparisonId;
  [kern, halde, ostra] = bank.chainIds as [string, string, string];
  passageId = (await matchOf(engineer, id)).passage.id;
});

it('makes the variant and matches the three, each to be told from the others by what is left', async () => {
  const at = new Date(NOON.getTime() + 60_000);
  const { setId, variantId } = await askOnlyEq(
    engineer,
    id,
    { passageId, chainId: ostra, asChainId: kern },
    at,
  );
  const order = await renderOrder(setId);
  if (!order) throw new Error('nothing was ordered');
  const made = await rendered(order);
  if ('refused' in made) throw new Error(made.refused);
  await keepRenderedSet(order, made, at);
  const { clips, clipSet } = await matchOf(engineer, id, { clipSetId: setId });
  expect(clipSet).toMatchObject({ state: 'ready', referenceChainId: kern });
  expect(clips.map(({ chainId }) => chainId).sort()).toEqual([kern, ostra, variantId].sort());
  const variant = (await chainsOf(engineer, id)).find((chain) => chain.id === variantId);
  expect(variant?.name).toBe(`${CHAIN_NAMES[2]}, tone of ${CHAIN_NAMES[0]}`);
  expect(variant?.shape).toMatchObject({ kind: 'variant', ofChainId: ostra, takeId: null });
  // With the tone of the other the average spectrum comes near to it: bands with sound, within its limits.
  const thirds = (chainId: string) => {
    const clip = clips.find((one) => one.chainId === chainId);
    return clip?.spectra?.third.against ?? [];
  };
  const far = (chainId: string) => {
    const known = thirds(chainId).filter(
      ({ centerHz, coherence }) => centerHz >= 250 && centerHz <= 4000 && coherence > 0.9,
    );
    return (
      known.reduce((sum, { differenceDb }) => sum + Math.abs(differenceDb ?? 0), 0) / known.length
    );
  };
  expect(far(variantId)).toBeLessThan(0.5 * far(ostra));
});

it('uses the variant that is there, whatever its name', async () => {
  const at = new Date(NOON.getTime() + 120_000);
  const before = (await chainsOf(engineer, id)).length;
  await askOnlyEq(engineer, id, { passageId, chainId: ostra, asChainId: kern }, at);
  expect((await chainsOf(engineer, id)).length).toBe(before);
  // The other way round is another question; while a match is made it waits, and nothing is lost.
  await expect(
    askOnlyEq(engineer, id, { passageId, chainId: kern, asChainId: ostra }, at),
  ).rejects.toMatchObject({ status: 409 });
});

it('is asked of two chains of this comparison that are no variants', async () => {
  const ask = (chainId: string, asChainId: string, who = engineer) =>
    askOnlyEq(who, id, { passageId, chainId, asChainId }, NOON);
  await expect(ask(randomUUID(), kern)).rejects.toMatchObject({ status: 404 });
  await expect(ask(kern, randomUUID())).rejects.toMatchObject({ status: 404 });
  const stranger = await testEngineer('Somebody Else');
  await expect(ask(halde, kern, stranger)).rejects.toMatchObject({ status: 404 });
  const loud = await addChain(engineer, id, {
    name: 'louder',
    items: '',
    priceCents: null,
    shape: {
      kind: 'variant',
      ofChainId: halde,
      takeId: null,
      stages: [{ kind: 'level', db: 1 }],
    },
  });
  await expect(ask(loud, kern)).rejects.toMatchObject({ status: 422 });
  await expect(ask(kern, loud)).rejects.toMatchObject({ status: 422 });
  expect(onlyEqOrder.safeParse({ passageId, chainId: kern, asChainId: kern }).success).toBe(false);
});

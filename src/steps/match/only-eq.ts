import { stageKindOf, stageSettings, stagesWords, startOf } from '@/core/processing/stages';
import { db } from '@/platform/database';
import { notFound } from '@/platform/errors';
import type { SignedIn } from '@/platform/sign-in/service';
import { isVariant, tonedAs, variantName } from '@/steps/chains/schema';
import { addChain, chainsOf } from '@/steps/chains/service';
import type { OnlyEqOrder } from './schema';
import { startMatch, takesForMatch } from './service';

/**
 * Asks whether two chains differ by more than EQ, in one order: a variant of one with the tone of the other (made unless
 * it is there), and a match of the three alone.
 * @returns the set that is being made, and the variant in it
 */
export async function askOnlyEq(
  engineer: SignedIn,
  comparisonId: string,
  { passageId, chainId, asChainId }: OnlyEqOrder,
  at: Date,
): Promise<{ setId: string; variantId: string }> {
  const chains = await chainsOf(engineer, comparisonId);
  const nameOf = (id: string) => chains.find((chain) => chain.id === id)?.name ?? '';
  const chain = chains.find(({ id }) => id === chainId);
  if (!chain || nameOf(asChainId) === '') throw notFound('chain');
  const stages = [stageSettings.parse(startOf(stageKindOf({ kind: 'tone-match' }), asChainId))];
  const variantId =
    chains.find(
      (one) => isVariant(one) && one.shape.ofChainId === chainId && tonedAs(one) === asChainId,
    )?.id ??
    (await addChain(engineer, comparisonId, {
      name: variantName(chain.name, stagesWords(stages, nameOf)),
      items: '',
      priceCents: null,
      shape: { kind: 'variant', ofChainId: chainId, takeId: null, takeAs: 'another take', stages },
    }));
  const three = [chainId, asChainId, variantId];
  const takes = await takesForMatch(db(), comparisonId, passageId);
  const [setId] = await startMatch(
    engineer,
    comparisonId,
    {
      passageId,
      method: 'loudness',
      referenceChainId: asChainId,
      contexts: [{ kind: 'raw' }],
      offsets: {},
      leftOut: takes.flatMap((take) => (three.includes(take.chainId) ? [] : [take.chainId])),
    },
    at,
  );
  return { setId: setId!, variantId };
}

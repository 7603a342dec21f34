import type { Comparison } from '@/core/spectrum/compare-two';
import type { SignedIn } from '@/platform/sign-in/service';
import { type CompareOrder, setAgainst } from '@/steps/takes/compare';
import { clipForEngineer } from './service';

/** What a thread needs to set two clips of one set against each other; they lie in time already. */
export async function clipsOrder(
  engineer: SignedIn,
  comparisonId: string,
  clipSetId: string,
  { chainId, otherId }: { chainId: string; otherId: string },
): Promise<CompareOrder> {
  const side = async (of: string) => ({
    ...(await clipForEngineer(engineer, comparisonId, clipSetId, of)),
    channels: null,
  });
  return { reference: await side(chainId), other: await side(otherId) };
}

/** Sets one clip against another of its set, as matched. */
export async function comparedClips(
  engineer: SignedIn,
  comparisonId: string,
  clipSetId: string,
  of: { chainId: string; otherId: string },
): Promise<Comparison> {
  return setAgainst(await clipsOrder(engineer, comparisonId, clipSetId, of));
}

import { db } from '@/platform/database';
import { openJobs } from '@/platform/jobs';
import type { SignedIn } from '@/platform/sign-in/service';
import { brief, type SourceDraft } from '@/steps/comparisons/schema';
import {
  changeComparison,
  changePassage,
  comparisonOf,
  sourcesSeen,
} from '@/steps/comparisons/service';
import { listPassages } from '@/steps/comparisons/store';
import type { MatchOrder } from '@/steps/match/schema';
import { startMatch } from '@/steps/match/service';

/** Writes the rest of a question down, and who else is recorded. */
export async function keepBrief(
  engineer: SignedIn,
  comparisonId: string,
  written: unknown,
  further: SourceDraft[] = [],
): Promise<void> {
  const comparison = await comparisonOf(engineer, comparisonId);
  const sources = [...(await sourcesSeen(engineer, comparisonId)), ...further];
  const change = { ...comparison, sources, brief: brief.parse(written) };
  await changeComparison(engineer, comparisonId, change, new Date());
}

/** Waits until the worker has nothing left to do for the comparison. */
export async function settled(comparisonId: string): Promise<void> {
  while ((await openJobs(db(), comparisonId)).length > 0) {
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

/** Marks a passage, the first unless another is named, and matches its clips; done when the worker is. */
export async function matched(
  engineer: SignedIn,
  comparisonId: string,
  [fromS, toS]: readonly [number, number],
  how: Pick<MatchOrder, 'method' | 'referenceChainId' | 'contexts'>,
  named?: string,
): Promise<void> {
  const passageId = named ?? (await listPassages(db(), comparisonId))[0]!.id;
  await changePassage(engineer, comparisonId, passageId, { fromS, toS });
  const order = { ...how, passageId, offsets: {}, leftOut: [] };
  await startMatch(engineer, comparisonId, order, new Date());
  await settled(comparisonId);
}

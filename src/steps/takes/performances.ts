import { takeInName } from '@/core/checks/naming';
import { performancesOf, type Performance } from '@/core/checks/performances';
import { inOrder, recordedAt, recordedSpan } from '@/core/checks/recorded';
import { samePerformance } from '@/core/checks/set/set-check';
import type { StoredTake } from './schema';

/** Which time of playing every take of a comparison is of: those with music, of a chain, that could be read. */
export function performances(takes: readonly StoredTake[]): Map<string, Performance> {
  const played = takes.flatMap((take) =>
    take.programme === 'performance' && take.chainId !== null && take.state === 'ready'
      ? [{ ...take, chainId: take.chainId }]
      : [],
  );
  const sources = new Set(played.map(({ sourceId }) => sourceId));
  return new Map(
    [...sources].flatMap((source) => {
      const own = inOrder(
        played.filter(({ sourceId }) => sourceId === source),
        ({ facts }) => facts && recordedAt(facts.metadata, facts.sampleRateHz),
      );
      return [
        ...performancesOf(
          own.map(({ id, chainId, fileName, facts, givenPerformance, referenceAlignment }) => ({
            id,
            chainId,
            given: givenPerformance,
            soundsLike:
              referenceAlignment && samePerformance(referenceAlignment)
                ? referenceAlignment.referenceTakeId
                : null,
            span: facts && recordedSpan(facts.metadata, facts.sampleRateHz, facts.durationS),
            inName: takeInName(fileName),
          })),
          own.some(({ replayed }) => replayed),
        ),
      ];
    }),
  );
}

/** Takes of the performance of each source that most chains recorded, as recorded; of the first of several. */
export function foremost(takes: readonly StoredTake[]): string[] {
  const played = performances(takes);
  return [...new Set(takes.map(({ sourceId }) => sourceId))].flatMap((source) => {
    const own = takes.flatMap(({ id, sourceId, chainId }) => {
      const performance = played.get(id);
      return sourceId === source && performance?.renderedFrom === null
        ? [{ id, chainId, of: performance.number }]
        : [];
    });
    const chainsOf = (number: number) =>
      new Set(own.filter(({ of }) => of === number).map(({ chainId }) => chainId)).size;
    const [best] = [...new Set(own.map(({ of }) => of))].sort(
      (a, b) => chainsOf(b) - chainsOf(a) || a - b,
    );
    return own.flatMap(({ id, of }) => (of === best ? [id] : []));
  });
}

import { programmeLabel, type ProgrammeId } from '@/core/checks/programme';
import type { Passage } from '@/steps/comparisons/schema';
import type { ShownTake } from '@/steps/takes/schema';

type Take = Pick<ShownTake, 'chainId' | 'sourceId' | 'state' | 'programme' | 'detail'>;

/** Whether a take is one that a passage is cut from. */
export function isOfPassage(
  take: Take,
  { sourceId, programme, detail }: Pick<Passage, 'sourceId' | 'programme' | 'detail'>,
): boolean {
  return (
    take.state === 'ready' &&
    take.sourceId === sourceId &&
    take.programme === programme &&
    (programme === 'performance' || take.detail === detail)
  );
}

/** A step of which several chains were recorded, so that it can be heard chain against chain. */
export interface RecordedStep {
  programme: ProgrammeId;
  detail: string;
  label: string;
  chains: number;
}

/** Steps of a source that at least two chains recorded; the performance first. */
export function recordedSteps(takes: readonly Take[], sourceId: string): RecordedStep[] {
  const steps = new Map<string, RecordedStep & { of: Set<string> }>();
  for (const take of takes) {
    const { programme, chainId } = take;
    // A performance is the music, whatever a name says besides.
    const detail = programme === 'performance' ? '' : take.detail;
    if (!chainId || programme === 'backing' || take.sourceId !== sourceId) continue;
    if (take.state !== 'ready') continue;
    const label = programmeLabel(programme, detail);
    const step = steps.get(label) ?? { programme, detail, label, chains: 0, of: new Set<string>() };
    step.of.add(chainId);
    steps.set(label, step);
  }
  return [...steps.values()]
    .filter(({ of }) => of.size > 1)
    .map(({ of, ...step }) => ({ ...step, chains: of.size }))
    .sort(
      (a, b) =>
        Number(b.programme === 'performance') - Number(a.programme === 'performance') ||
        a.label.localeCompare(b.label, 'en', { numeric: true }),
    );
}

'use client';

import { DECISIONS } from '@/steps/decision/endpoints';
import type { Weighing } from '@/steps/decision/schema';
import type { DecisionView } from '@/steps/decision/service';
import { useSend } from '@/ui/useSend';
import { useUndo } from '@/ui/useUndo';

/** Changes what counts how much, and offers to take it back. */
export function useWeighing({ comparison, weighing, weighed }: DecisionView) {
  const { send, busy } = useSend();
  const offerUndo = useUndo();
  const change = async (next: Partial<Weighing>, said: string) => {
    const ids = { id: comparison.id };
    const { version } = weighed;
    const body = { weighing: { ...weighing, ...next }, version };
    if (!(await send(DECISIONS.weigh, ids, body))) return;
    offerUndo(said, (again) => again(DECISIONS.weigh, ids, { weighing, version: version + 1 }));
  };
  return { change, busy };
}

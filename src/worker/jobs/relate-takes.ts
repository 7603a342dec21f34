import { keepAlignments, alignmentOrder } from '@/steps/takes/service';
import type { relateTakes as relate } from '../tasks';
import type { Job } from './job';

export const relateTakes = {
  queue: 'relate-takes',
  run: async (comparisonId, inThread, report) => {
    const order = await alignmentOrder(comparisonId);
    // While some are still being checked, the last of them asks again.
    if (!order) return;
    type Found = Awaited<ReturnType<typeof relate>>;
    await keepAlignments(comparisonId, await inThread<Found>('relateTakes', { order }, report));
  },
} as const satisfies Job;

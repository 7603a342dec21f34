import { keepRelations, relationOrder } from '@/steps/takes/service';
import type { relateTakes as relate } from '../tasks';
import type { Job } from './job';

export const relateTakes = {
  queue: 'relate-takes',
  run: async (comparisonId, inThread, report) => {
    const order = await relationOrder(comparisonId);
    // While some are still being checked, the last of them asks again.
    if (!order) return;
    type Found = Awaited<ReturnType<typeof relate>>;
    await keepRelations(comparisonId, await inThread<Found>('relateTakes', { order }, report));
  },
} as const satisfies Job;

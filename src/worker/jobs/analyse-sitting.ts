import { orderForecast } from '@/steps/decision/service';
import { analysisOrder, keepAnalysis } from '@/steps/results/service';
import type { StoredAnalysis } from '@/steps/results/schema';
import type { Job } from './job';

export const analyseSitting = {
  queue: 'analyse-sitting',
  run: async (sittingId, inThread) => {
    const order = await analysisOrder(sittingId);
    if (!order) return;
    await keepAnalysis(sittingId, await inThread<StoredAnalysis>('analyseSitting', order));
    await orderForecast(sittingId, new Date());
  },
} as const satisfies Job;

import { orderForecast } from '@/steps/decision/service';
import { analysisOrder, keepAnalysis } from '@/steps/results/service';
import type { StoredAnalysis } from '@/steps/results/schema';
import type { Job } from './job';

export const analyseSitting = {
  queue: 'analyse-sitting',
  run: async (sittingId, inThread, report) => {
    const order = await analysisOrder(sittingId);
    if (!order) return;
    const made = await inThread<StoredAnalysis>('analyseSitting', order, report);
    await keepAnalysis(sittingId, made);
    await orderForecast(sittingId, new Date());
  },
} as const satisfies Job;

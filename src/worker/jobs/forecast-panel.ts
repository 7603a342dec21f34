import { dropForecast } from '@/steps/decision/store';
import { forecastOrder, keepForecast } from '@/steps/decision/service';
import type { forecastPanel as work } from '../tasks';
import type { Job } from './job';

export const forecastPanel = {
  queue: 'forecast-panel',
  run: async (sittingId, inThread, report) => {
    const order = await forecastOrder(sittingId);
    if (!order) return;
    const made = await inThread<ReturnType<typeof work>>('forecastPanel', { order }, report);
    await keepForecast(sittingId, made);
  },
  giveUp: (tx, sittingId) => dropForecast(tx, sittingId),
} as const satisfies Job;

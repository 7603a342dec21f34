import { db } from '@/platform/database';
import { giveUpInspection, type Inspection, keepInspection } from '@/steps/takes/service';
import { findTake } from '@/steps/takes/store';
import { PLACES } from './places';
import type { Job } from './job';

export const inspectTake = {
  queue: 'inspect-take',
  atOnce: PLACES,
  run: async (takeId, inThread, report) => {
    const take = await findTake(db(), takeId);
    if (take?.state !== 'waiting') return;
    const { audioId, channels } = take;
    const found = await inThread<Inspection>('inspectTake', { audioId, channels }, report);
    await keepInspection(takeId, found, new Date());
  },
  giveUp: (tx, takeId, _, at) => giveUpInspection(tx, takeId, at),
} as const satisfies Job;

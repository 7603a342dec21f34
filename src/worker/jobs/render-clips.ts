import { transaction } from '@/platform/database';
import { failClipSet, keepRenderedSet, renderOrder } from '@/steps/match/service';
import { renderSet } from '../rendering';
import type { Job } from './job';
import { PLACES } from './places';

export const renderClips = {
  queue: 'render-clips',
  // One more than there are threads: while one is being stored, they work on others.
  atOnce: PLACES + 1,
  run: async (clipSetId, inThread, report) => {
    const order = await renderOrder(clipSetId);
    if (!order) return;
    const made = await renderSet(order, inThread, report);
    if ('refused' in made) {
      await transaction((tx) => failClipSet(tx, clipSetId, made.refused));
      return made;
    }
    await keepRenderedSet(order, made, new Date());
  },
  giveUp: (tx, clipSetId, remark) => failClipSet(tx, clipSetId, remark),
} as const satisfies Job;

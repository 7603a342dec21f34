import { powerToDb } from '@/core/signal/units';
import type { SetCheck } from './set-check';

const AGREE_COHERENCE = 0.98;
const AGREE_DB = 0.2;

export const repeatable: SetCheck = ({ takes }) => {
  const again = takes.filter(({ referenceAlignment }) => referenceAlignment?.own);
  if (again.length === 0) {
    return 'Nothing was played twice through one chain; record one chain again to show that the playback repeats.';
  }
  for (const { chain, referenceAlignment } of again) {
    const own = referenceAlignment?.own;
    if (!own) continue;
    if (own.coherence < AGREE_COHERENCE || Math.abs(own.levelDb) > AGREE_DB) {
      const left = powerToDb(Math.max(1e-6, 1 - own.coherence))
        .toFixed(0)
        .replace('-', '−');
      return `${chain} played twice does not agree with itself (${left} dB left, ${Math.abs(own.levelDb).toFixed(1)} dB apart); something moved between the takes.`;
    }
  }
  return null;
};

import { dbToAmplitude } from '@/core/signal/units';
import { signed } from '@/ui/format';

/** "−24.3 dB, 6 %": what is left of one recording without the other, against its own level. */
export function leftWords({
  samePerformance,
  nullDb,
}: {
  samePerformance: boolean;
  nullDb: number | null;
}): string {
  if (!samePerformance) return 'another performance: not subtracted';
  return nullDb === null
    ? 'nothing'
    : `${signed(nullDb, 1, 'dB')}, ${Math.round(100 * dbToAmplitude(nullDb))} %`;
}

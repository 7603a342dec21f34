import type { ProgrammeId } from '@/core/checks/programme';
import type { Db } from '@/platform/database';
import type { Chain } from '@/steps/chains/schema';
import { writtenGains } from './run-sheet-store';

/** Gain that the items of a chain are set to, dB; null where none says it in numbers. */
function plannedGainDb({ gear }: Chain): number | null {
  const set = gear.flatMap(({ settings }) => settings.gainDb ?? []);
  return set.length === 0 ? null : set.reduce((sum, db) => sum + db, 0);
}

/** At which gain a take was recorded. */
export interface RecordedGain {
  /** Null where nothing says it in decibels. */
  gainDb: number | null;
  /** Where a knob stood of which no data sheet says the gain; else empty. */
  knob: string;
}

/**
 * At which gain chains were recorded in a step of a source: what the run sheet says of it, else what the chain is
 * set to.
 * @returns asked by a chain, and which of its takes of that step is meant, from 1
 */
export async function recordedGainsOf(
  from: Db,
  comparisonId: string,
  of: { sourceId: string; programme: ProgrammeId; detail: string },
  chains: readonly Chain[],
): Promise<(chainId: string, number: number) => RecordedGain> {
  const gains = await writtenGains(from, comparisonId, of);
  return (id, number) => {
    const own = gains.filter(({ chainId }) => chainId === id);
    const logged = own.find(({ takeNumber }) => takeNumber === number) ?? own[0];
    const chain = chains.find((one) => one.id === id);
    if (logged) return { gainDb: logged.gainDb, knob: logged.gainDb === null ? logged.knob : '' };
    return { gainDb: chain ? plannedGainDb(chain) : null, knob: '' };
  };
}

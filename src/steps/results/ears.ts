import { panelHears } from '@/core/ears/panel';
import { THIRD_OCTAVES } from '@/core/spectrum/bands';
import { MOST_LISTENERS } from './across';
import { hearingOf } from '@/steps/ears/panel-hearing';

/** What those who train let be seen of their ears. */
export interface PanelEars {
  /** Of a large panel some; `of` how many there are. */
  listeners: { listener: string; says: string[] }[];
  of: number;
  /** What the panel can hear at all, beside how far chains differ. */
  says: string[];
}

export const NO_EARS: PanelEars = { listeners: [], of: 0, says: [] };

const CENTRES_HZ = THIRD_OCTAVES.map(({ centerHz }) => centerHz);

/** @param levels thirds of an octave of each chain that was heard; asked for only where somebody trains */
export async function earsIn(
  sittingId: string,
  listeners: readonly { seat: number; alias: string }[],
  levels: () => Promise<ReadonlyMap<string, (number | null)[]>>,
): Promise<PanelEars> {
  const hearing = await hearingOf(sittingId);
  if (hearing.length === 0) return NO_EARS;
  const aliasOf = new Map(listeners.map(({ seat, alias }) => [seat, alias]));
  return {
    of: hearing.length,
    listeners: hearing.slice(0, MOST_LISTENERS).map(({ seat, says }) => ({
      listener: aliasOf.get(seat) ?? `seat ${seat}`,
      says,
    })),
    says: panelHears(
      await levels(),
      CENTRES_HZ,
      hearing.map(({ bands }) => bands),
    ),
  };
}

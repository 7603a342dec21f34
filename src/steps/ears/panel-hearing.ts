import { outcomeText, shownAmount } from '@/core/ears/outcome';
import type { BandHeard } from '@/core/ears/panel';
import { toldSkill } from '@/core/ears/skills';
import { db } from '@/platform/database';
import { readSession } from './service';
import { seatSessions } from './store';

const MOST = 2000;

/** What one listener of a sitting heard in training and in tests, as far as it may be seen. */
export interface ListenerHearing {
  seat: number;
  /** The newest of each kind, in sentences. */
  says: string[];
  bands: BandHeard[];
}

/** What the listeners of a sitting who are on the panel let be seen of their ears: tests, and what they agreed to. */
export async function hearingOf(sittingId: string): Promise<ListenerHearing[]> {
  const newest = new Map<number, Map<string, { says: string; band: BandHeard | null }>>();
  for (const row of await seatSessions(db(), sittingId, MOST)) {
    const read = readSession(row);
    if (!read || read.outcome.kind === 'too few') continue;
    const { plan, outcome } = read;
    const own = newest.get(row.seat) ?? new Map<string, { says: string; band: BandHeard | null }>();
    newest.set(row.seat, own);
    const title = toldSkill(plan.skill, plan.choices);
    const key = `${title} ${plan.amount}`;
    if (own.has(key)) continue;
    const day = row.begunAt.toISOString().slice(0, 10);
    own.set(key, {
      says: `${title}, ${day}: ${outcomeText(plan, outcome)}`,
      band:
        plan.skill.id === 'band'
          ? { centreHz: Number(plan.choices.centreHz), leastDb: shownAmount(plan, outcome) }
          : null,
    });
  }
  return [...newest]
    .sort(([x], [y]) => x - y)
    .map(([seat, own]) => ({
      seat,
      says: [...own.values()].map(({ says }) => says),
      bands: [...own.values()].flatMap(({ band }) => band ?? []),
    }));
}

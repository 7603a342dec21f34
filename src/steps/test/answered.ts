import { randomUUID } from 'node:crypto';
import type { Random } from '@/core/signal/random';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { systemRandom } from '@/platform/system-random';
import { NOON } from '@/platform/test/database';
import { analysisOrder, keepAnalysis } from '@/steps/results/service';
import type { PartDraft, SittingDraft } from '@/steps/sitting/schema';
import { insertAnswer, insertListener } from '@/steps/sitting/seats';
import { closeSitting } from '@/steps/sitting/service';
import { analyseSitting } from '@/worker/tasks';
import { openDrawn } from './bank';

/** A closed sitting whose listeners always choose the chain that comes first in `liking`, which may be one each. */
export async function answeredSitting(
  engineer: SignedIn,
  comparisonId: string,
  asked: {
    aliases: readonly string[];
    liking: string[] | ((listener: number, position: number) => string[]);
    change?: Partial<SittingDraft>;
    parts?: Partial<PartDraft>[];
    /** What orders are drawn from. */
    random?: Random;
  },
): Promise<string> {
  const { aliases, liking, change = {}, parts = [], random = systemRandom() } = asked;
  const plan = { seats: aliases.length, ...change };
  const { sittingId } = await openDrawn(engineer, comparisonId, random, plan, ...parts);
  for (const [i, alias] of aliases.entries()) {
    const seat = i + 1;
    const listenerId = await insertListener(
      db(),
      { sittingId, seat, alias, playback: 'headphones', simulated: false },
      NOON,
    );
    const trials = await db().rows<{ position: number; first: string; second: string }>(
      `SELECT position, min(chain_id::text) FILTER (WHERE slot = 0) AS first,
         min(chain_id::text) FILTER (WHERE slot = 1) AS second FROM trial_clip
       WHERE sitting_id = $1 AND seat = $2 GROUP BY position ORDER BY position`,
      [sittingId, seat],
    );
    for (const { position, first, second } of trials) {
      const own = typeof liking === 'function' ? liking(i, position) : liking;
      await insertAnswer(
        db(),
        { listenerId, sittingId, seat },
        {
          position,
          answer: { choice: own.indexOf(first) < own.indexOf(second) ? 'first' : 'second' },
          key: randomUUID(),
          heardS: [4, 5],
          switches: 3,
          durationS: 10 + position,
          hasty: false,
          serverS: 10 + position,
          unfetched: false,
        },
        NOON,
      );
    }
  }
  await closeSitting(engineer, comparisonId, sittingId, new Date());
  return sittingId;
}

/** Reads what was answered, as the worker does. */
export async function analysed(sittingId: string): Promise<void> {
  const order = await analysisOrder(sittingId);
  if (!order) throw new Error('nothing to analyse');
  await keepAnalysis(sittingId, analyseSitting(order));
}

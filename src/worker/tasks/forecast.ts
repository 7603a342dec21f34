import { forecast } from '@/core/statistics/forecast';
import { marginsOf } from '@/core/statistics/reading/best';
import { TASKS } from '@/core/tasks';
import { type StoredForecast, storedForecast } from '@/steps/decision/schema';
import type { AnalysisOrder } from '@/steps/results/service';
import type { WithProgress } from './reporting';

/** What more listeners might say of every part that asks what is liked, read as the sealed analysis reads. */
export function forecastPanel({
  order: { parts, seed, plan },
  progress,
}: { order: AnalysisOrder } & WithProgress): StoredForecast {
  const margins = marginsOf({ seed, plan, chains: null });
  const asked = parts.filter(({ task }) => TASKS[task].asksLiking);
  const places = asked.flatMap(({ number, observations }, i) => {
    const made = forecast(observations, margins, seed, (share) =>
      progress?.postMessage((i + share) / asked.length),
    );
    return made ? [{ part: number, ...made }] : [];
  });
  return storedForecast.parse({ places });
}

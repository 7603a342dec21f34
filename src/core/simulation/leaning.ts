import type { Random } from '@/core/signal/random';
import { TASKS, type TaskId } from '@/core/tasks';
import type { Answering } from '@/core/tasks/task';

/** A strong common leaning: log odds for what comes first, shares of three places, points from first place to last. */
const FIRST = 0.5;
const PLACES = [0.2, 0.3, 0.5];
const POINTS = 10;
/** How a hand scatters on a line, and how often a word is ticked, whatever is heard. */
const SCATTER = 15;
const TICKED = 0.2;

/**
 * How somebody answers who hears no difference and leans to places as all others do: what a room with one order for all
 * must not take for a difference.
 * @param words that are offered
 */
export function leaning(id: TaskId, words: readonly string[], random: Random): Answering {
  const { rightPlaces, line, asksWords, namesReference } = TASKS[id];
  return (trial) => {
    if (trial.kind === 'learning') return { learned: true };
    if (asksWords) return { words: words.filter(() => random.uniform() < TICKED) };
    if (line) {
      const n = trial.slots.length - Number(namesReference);
      const place = (i: number) => 50 + (n > 1 ? POINTS * (0.5 - i / (n - 1)) : 0);
      return {
        places: Array.from({ length: n }, (_, i) =>
          Math.min(100, Math.max(0, place(i) + SCATTER * random.normal())),
        ),
      };
    }
    if (rightPlaces === 0) {
      const first = 1 / (1 + Math.exp(-FIRST));
      return { choice: random.uniform() < first ? 'first' : 'second' };
    }
    // Where the first is named, the others are chosen among.
    const named = Math.max(0, trial.slots.length - rightPlaces);
    const open = Array.from({ length: rightPlaces }, (_, i) => named + i);
    const weights = rightPlaces === 3 ? PLACES : [0.35, 0.65];
    let at = random.uniform();
    const chosen = open.find((_, i) => (at -= weights[i]!) < 0) ?? open[open.length - 1]!;
    return { slot: chosen };
  };
}

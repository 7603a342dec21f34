import { FEWEST_CONTROLS, type SetAsideRule } from '@/core/design/set-aside-rule';
import { analyzeControls } from './controls';
import { byListener, type Observation } from './observation';

/** What is known of how somebody listened, beside their answers. */
export interface Listened {
  listener: string;
  /** How many trials they had, controls and learning included. */
  trials: number;
  answers: number;
  hasty: number;
}

export interface SetAside {
  listener: string;
  /** "answered 3 of 12", "5 of 12 hasty"; as many as hold. */
  grounds: string[];
}

/**
 * Whom a rule sets aside, and on which grounds; in the order of those who listened.
 * @param observations of the whole sitting, controls included
 */
export function setAside(
  rule: SetAsideRule,
  listened: readonly Listened[],
  observations: readonly Observation[],
): SetAside[] {
  const said = byListener(observations);
  return listened.flatMap(({ listener, trials, answers, hasty }) => {
    const { repeats, levelCatch } = analyzeControls(said.get(listener) ?? []);
    const grounds: string[] = [];
    const under = (count: number, of: number, pct: number | null) =>
      pct !== null && of > 0 && 100 * count < pct * of;
    const over = (count: number, of: number, pct: number | null) =>
      pct !== null && of > 0 && 100 * count > pct * of;
    if (under(answers, trials, rule.answeredPct)) grounds.push(`answered ${answers} of ${trials}`);
    if (over(hasty, answers, rule.hastyPct)) grounds.push(`hasty in ${hasty} of ${answers}`);
    if (repeats && repeats.n >= FEWEST_CONTROLS && under(repeats.alike, repeats.n, rule.alikePct)) {
      grounds.push(`answered ${repeats.alike} of ${repeats.n} repeats alike`);
    }
    if (
      levelCatch &&
      levelCatch.n >= FEWEST_CONTROLS &&
      over(levelCatch.one, levelCatch.n, rule.louderPct)
    ) {
      grounds.push(`chose the louder ${levelCatch.one} of ${levelCatch.n} times`);
    }
    return grounds.length === 0 ? [] : [{ listener, grounds }];
  });
}

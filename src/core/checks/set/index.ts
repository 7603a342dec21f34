import { arrival } from './arrival';
import { combRisk } from './comb-risk';
import { levelDrift } from './level-drift';
import { notAtOnce } from './not-at-once';
import { repeatable } from './repeatable';
import type { CaptureMethod, SetCheck, SetFacts } from './set-check';
import { twoTakes } from './two-takes';

/** What each method has to answer for. */
const CHECKS: Record<CaptureMethod, readonly SetCheck[]> = {
  'at once': [notAtOnce, arrival, combRisk],
  'one after another': [twoTakes, levelDrift],
  replayed: [repeatable, arrival],
};

/** Sentences about the takes of one source, by how they were captured. They never block. */
export function checkSet(method: CaptureMethod, set: SetFacts): string[] {
  return set.takes.length === 0 ? [] : CHECKS[method].flatMap((check) => check(set) ?? []);
}

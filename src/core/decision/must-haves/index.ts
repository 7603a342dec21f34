import type { ChainFacts } from '../facts';
import type { ChainMark } from '../marks';
import { budget } from './budget';
import { level } from './level';
import { noise } from './noise';
import { pad } from './pad';
import { phantom } from './phantom';
import type { Judged, MustHaveRule, Verdict } from './rule';

const LISTED = [budget, noise, level, pad, phantom] as const;
export type RuleId = (typeof LISTED)[number]['id'];

/** What can decide a must-have from a spec, in the order in which it is offered. */
export const MUST_HAVE_RULES: readonly (MustHaveRule & { id: RuleId })[] = LISTED;
export const RULE_IDS = LISTED.map(({ id }) => id) as [RuleId, ...RuleId[]];

/** What decides a must-have. */
export type Ground =
  | { by: 'rule'; rule: RuleId; limit: number }
  | { by: 'mark'; criterion: string; least: number }
  | { by: 'hand' };

/** What a must-have is judged on. */
export interface Judgeable {
  facts: ChainFacts;
  markOf: (criterion: string) => Pick<ChainMark, 'points' | 'item'> | null;
  /** What was said by hand; null where nothing was. */
  byHand: Exclude<Verdict, 'unknown'> | null;
  money: (cents: number) => string;
}

/** Whether a chain has what it must, and on what ground. */
export function judgeMustHave(ground: Ground, { facts, markOf, byHand, money }: Judgeable): Judged {
  if (ground.by === 'hand') {
    return byHand === null
      ? { verdict: 'unknown', ground: 'nobody has said' }
      : { verdict: byHand, ground: 'said by hand' };
  }
  if (ground.by === 'rule') {
    const rule = MUST_HAVE_RULES.find(({ id }) => id === ground.rule)!;
    return rule.judge(facts, ground.limit, money);
  }
  const mark = markOf(ground.criterion);
  if (!mark) return { verdict: 'unknown', ground: `no mark for ${ground.criterion}` };
  const whose = mark.item === null ? '' : ` (${mark.item})`;
  return {
    verdict: mark.points >= ground.least ? 'pass' : 'fail',
    ground: `${ground.criterion} ${mark.points.toFixed(1).replace(/\.0$/, '')} of 5${whose}`,
  };
}

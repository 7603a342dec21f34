import { ruleWords, type SetAsideRule } from '@/core/design/set-aside-rule';
import type { Findings } from '@/core/statistics/findings';
import type { SetAside } from '@/core/statistics/set-aside';
import type { Across } from './across';

/** What everybody's answers and those without some of them say of one thing, where it is not the same. */
export interface Differing {
  of: string;
  everybody: string;
  without: string;
  /** The words are the same; only figures moved. */
  figuresOnly: boolean;
}

/** The results once more, without whom the rule that was sealed with the plan sets aside. */
export interface SecondReading {
  /** "answered fewer than 50 % of their trials" */
  rule: string;
  /** By name; nobody where the rule met nobody. */
  aside: SetAside[];
  /** Nobody is left to read. */
  empty: boolean;
  differing: Differing[];
}

interface Read {
  parts: readonly { number: number; findings: Findings }[];
  across: Across | null;
}

/** A sentence without its figures and what stands in brackets. */
const inWords = (said: string) => said.replace(/\([^)]*\)/g, '').replace(/[\d.,]+/g, '#');

/** The answers to the plan's questions, and the finding of each part. */
function toldBy({ parts, across }: Read): [of: string, said: string][] {
  const { distinguishable, liked, worth, nullHypothesis } = across?.answers ?? {};
  return [
    ['Told apart?', distinguishable?.sentence ?? ''],
    ['Liked, and where?', liked?.sentence ?? ''],
    ['Worth its price?', worth?.sentence ?? ''],
    ['Null hypothesis', nullHypothesis?.sentence ?? ''],
    ...parts.map(({ number, findings }): [string, string] => [
      `Part ${number}`,
      findings.headline || findings.detail,
    ]),
  ];
}

/**
 * @param rule as it was sealed; undefined where none was
 * @param ask what the results are without those who are set aside, asked for only where that is somebody
 */
export function secondReading(
  rule: SetAsideRule | undefined,
  everybody: Read,
  without: { aside: readonly SetAside[] } | null,
  ask: { read: () => Read | null; nameOf: (id: string) => string },
): SecondReading | null {
  const words = rule && ruleWords(rule);
  if (!words) return null;
  const aside = (without?.aside ?? []).map(({ listener, grounds }) => ({
    listener: ask.nameOf(listener),
    grounds,
  }));
  const left = aside.length > 0 ? ask.read() : null;
  const empty = left !== null && left.across === null;
  const before = new Map(toldBy(everybody));
  const differing =
    left === null || empty
      ? []
      : toldBy(left).flatMap(([of, said]) => {
          const told = before.get(of) ?? '';
          const figuresOnly = inWords(told) === inWords(said);
          return told === said ? [] : [{ of, everybody: told, without: said, figuresOnly }];
        });
  return { rule: words, aside, empty, differing };
}

import { tellings } from '@/core/design/telling';
import type { AnswerRow } from './store';

/** A remark with what it was about. */
export interface ListenerRemark {
  listener: string;
  /** Number of its part, and of the trial within the sitting. */
  part: number;
  position: number;
  chains: string[];
  text: string;
  /** It speaks of a chain or its gear by name: whoever wrote it believed to recognise something. */
  namesGear: boolean;
}

/**
 * What listeners said in their own words, in the order of the trials.
 * @param nameOf of a chain
 * @param names of chains and gear, for telling what speaks of them
 */
export function remarksOf(
  answers: readonly AnswerRow[],
  nameOf: (chainId: string) => string,
  names: readonly string[],
): ListenerRemark[] {
  return answers
    .filter(({ remark }) => remark !== '')
    .sort((a, b) => a.position - b.position || a.seat - b.seat)
    .map(({ listener, part, position, clips, remark }) => ({
      listener,
      part,
      position,
      chains: [...new Set(clips.map(({ chainId }) => nameOf(chainId)))],
      text: remark,
      namesGear: tellings(remark, names).some(({ certain }) => certain),
    }));
}

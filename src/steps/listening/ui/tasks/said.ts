import { REFERENCE_WORD } from '../../reference-word';
import type { ListenerView } from '../../views';
import type { Say } from '../failure-text';

type Part = ListenerView['part'];

/** The question: the usual one of its task in the listener's language, the engineer's own as it was written. */
export function promptOf(t: Say, { task, prompt, usual }: Part): string {
  return usual ? t(`tasks.${task}.prompt`) : prompt;
}

/** The word on a slip. Those that stand for chains mean nothing in any language. */
export const wordOf = (t: Say, word: string): string =>
  word === REFERENCE_WORD ? t('trial.reference') : word;

/** A word to tick, as it is shown: those of the usual lists are known by their English one. */
export function tickWord(t: Say, word: string): string {
  const id = `words.${word}` as const;
  return /^[a-z]+$/.test(word) && t.has(id as 'words.dark') ? t(id as 'words.dark') : word;
}

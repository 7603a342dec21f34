import { STEREO_WORDS, TONAL_WORDS } from '@/core/tasks/words/lists';
import { wordsOf } from '@/core/text/words';

/** Words that name no gear in particular, though names of gear and chains hold them. */
const COMMON = new Set([
  ...TONAL_WORDS,
  ...STEREO_WORDS,
  ...(
    'the and for with from into microphone microphones mic mics preamp preamps preamplifier amplifier amp ' +
    'condenser ribbon dynamic moving coil tube valve transformer capsule pad booster large small diaphragm ' +
    'cardioid omni figure eight stereo mono pair array reference channel strip converter interface chain ' +
    'chains clone original modified old new mark model series type recording recordings sound voice song ' +
    'verse close far near left right first second third which better best suits part how well one other ' +
    'more less like not same two three odd out place each against fit fits words worse take test quiet loud'
  ).split(' '),
]);

/** A text for listeners that gives a chain away. */
export interface Telling {
  /** The name it gives away. */
  name: string;
  /** The words of the text that do. */
  words: string;
  /** A name of one or two signs may stand there by chance. */
  certain: boolean;
}

/** Whether a part of a name points to it: a word of its own, or a type number. */
function isDistinctive(word: string): boolean {
  if (COMMON.has(word)) return false;
  const [letters, digits] = [/\p{L}/u.test(word), /\p{N}/u.test(word)];
  return letters ? word.length > 2 || digits : word.length > 2;
}

/**
 * What in a text names one of these chains or items of gear: the whole name, or a distinctive part of it, as
 * whole words whatever their case and accents. Certain ones come first.
 * @param names of chains and of all gear in them
 */
export function tellings(text: string, names: readonly string[]): Telling[] {
  const inText = wordsOf(text);
  const joined = ` ${inText.join(' ')} `;
  const found = names.flatMap((name): Telling[] => {
    const parts = wordsOf(name);
    if (parts.length === 0) return [];
    const whole = parts.join(' ');
    if (joined.includes(` ${whole} `)) {
      const certain = whole.length > 2 && !parts.every((part) => COMMON.has(part));
      return [{ name, words: whole, certain }];
    }
    const part = parts.find((one) => isDistinctive(one) && inText.includes(one));
    return part ? [{ name, words: part, certain: true }] : [];
  });
  return found.sort((a, b) => Number(b.certain) - Number(a.certain));
}

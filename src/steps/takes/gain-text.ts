import { numberFault, readNumber } from '@/core/text/numbers';
import { type Written, written } from './log-entry';

type Gain = Pick<Written, 'gainDb' | 'knob'>;

const KNOB = /^knob(?![a-z])(\s+at\b)?\s*/i;

/** "38" for decibels, "knob 3" for a position. */
export function gainText({ gainDb, knob }: Gain): string {
  if (knob !== '') return `knob ${knob}`;
  return gainDb === null ? '' : String(gainDb);
}

/**
 * What was typed as a gain: a number is decibels, whatever stands behind "knob" is where the knob stood. Other words
 * are more likely a slip of the finger.
 * @returns a sentence where it is neither
 */
export function readGain(text: string): Gain | string {
  const typed = text.trim();
  if (typed === '') return { gainDb: null, knob: '' };
  const position = typed.replace(KNOB, '');
  if (position === '') return 'Say where the knob stands: “knob 3”.';
  const isKnob = position !== typed;
  const number = isKnob ? null : readNumber(typed);
  if (!isKnob && number === null) {
    return `${numberFault(typed) ?? 'Write decibels.'} Of a knob write “knob ${typed}”.`;
  }
  const gain = { gainDb: number, knob: isKnob ? position : '' };
  const checked = written.pick({ gainDb: true, knob: true }).safeParse(gain);
  return checked.success ? checked.data : checked.error.issues[0]!.message;
}

import type { MatchMethod } from '@/core/matching/methods';
import { stagesWords } from '@/core/processing/stages';
import type { ClipDetails } from '@/steps/match/stored';

/** A clip that was heard, as far as it tells whether it was a variant. */
export interface HeardClip {
  chainId: string;
  details: Pick<ClipDetails, 'variantOf' | 'stages' | 'onPurposeDb'>;
}

/** What each variant among the clips was, and how what was heard of it must be taken; one sentence or two each. */
export function variantNotes(
  clips: readonly HeardClip[],
  nameOf: (chainId: string) => string,
): string[] {
  const notes = clips.flatMap(({ chainId, details }) => {
    const { variantOf, stages = [], onPurposeDb = 0 } = details;
    if (variantOf === undefined) return [];
    const heard = stages.filter(({ kind }) => kind !== 'level');
    const done =
      heard.length > 0
        ? `through ${stagesWords(heard, nameOf)}`
        : onPurposeDb === 0
          ? 'unprocessed'
          : '';
    const what = `“${nameOf(chainId)}” is “${nameOf(variantOf)}” once more${done && `, ${done}`}.`;
    if (onPurposeDb === 0) return [what];
    const off = `${Math.abs(onPurposeDb).toFixed(1)} dB ${onPurposeDb > 0 ? 'louder' : 'quieter'}`;
    return [`${what} It was ${off} than the others on purpose; liking it may be loudness alone.`];
  });
  return [...new Set(notes)];
}

const MADE_EQUAL: Record<Exclude<MatchMethod, 'loudness'>, string> = {
  rms: 'was matched by average power, not by loudness',
  tone: 'was matched by a printed tone, not by loudness',
  hand: 'was heard at levels that were set by ear',
  gain: 'was heard at one gain, not at one loudness',
  test: 'was matched by a test sound, not by loudness',
};

/** Which parts were not heard at one loudness, and what that does. */
export function levelNotes(clips: readonly { part: number; method: MatchMethod }[]): string[] {
  const methods = new Map(clips.map(({ part, method }) => [part, method]));
  const several = methods.size > 1;
  return [...methods].flatMap(([part, method]) => {
    if (method === 'loudness') return [];
    const what = `${several ? `Part ${part}` : 'It'} ${MADE_EQUAL[method]}`;
    return [`${what}: what was louder is liked better for that alone.`];
  });
}

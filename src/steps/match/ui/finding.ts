import type { Clip, ClipSet } from '@/steps/match/schema';
import { countWord } from '@/ui/format';

/** How clips stand to each other, by the way they were matched. */
const MATCHED: Record<ClipSet['method'], string> = {
  loudness: ', equally loud',
  rms: ' at one RMS level',
  tone: ', matched by a printed tone',
  hand: ' at levels set by hand',
  gain: ' at the same gain',
  test: ', matched by a test sound',
};

/** What a set of clips is, and how well that was kept; a set that was not matched by loudness says what loudness came of it. */
export function findingOf(
  clipSet: ClipSet | null,
  clips: readonly Pick<Clip, 'afterLufs' | 'details'>[],
): { finding: string; aside: string } {
  if (clipSet?.state === 'ready') {
    const off = clips.filter(({ details }) => (details.onPurposeDb ?? 0) !== 0).length;
    const but = off === 0 ? '' : ` but for ${off === 1 ? 'one' : String(off)} on purpose`;
    const finding = `${countWord(clips.length, 'clip')}${MATCHED[clipSet.method]}${but}`;
    const worst = Math.max(0.001, clipSet.facts?.worstResidualLu ?? 0).toFixed(3);
    if (clipSet.method === 'loudness') {
      return {
        finding,
        aside: `verified on the rendered bytes: each within ${worst} LU of ${off === 0 ? 'the common loudness' : 'the loudness that it shall have'}`,
      };
    }
    const loudness = clips.flatMap(({ afterLufs }) => afterLufs ?? []);
    const quiet = clips.length - loudness.length;
    if (quiet > 0) {
      return {
        finding,
        aside: `${quiet === clips.length ? 'all are' : quiet === 1 ? 'one of them is' : `${quiet} of them are`} too quiet to have a loudness; set no level by ${quiet === 1 ? 'it' : 'them'}`,
      };
    }
    const spread = Math.max(...loudness) - Math.min(...loudness);
    return {
      finding,
      aside: `their loudness came out ${spread.toFixed(1)} LU apart; a louder one is liked better for that alone`,
    };
  }
  if (clipSet?.state === 'waiting') {
    return {
      finding: 'The clips are being made',
      aside: 'Leave and come back if you like; it goes on.',
    };
  }
  if (clipSet?.state === 'failed') {
    return { finding: 'This match was not possible', aside: 'The takes are as they were.' };
  }
  return {
    finding: 'Mark the passage that every chain gets',
    aside:
      'Five to 25 seconds make a good clip. All takes are cut, aligned and brought to one loudness.',
  };
}

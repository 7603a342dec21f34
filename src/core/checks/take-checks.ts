import type { ProgrammeId } from './programme';
import type { Check, CheckRemark, TakeFacts } from './take/check';
import { clipped } from './take/clipped';
import { dropouts } from './take/dropouts';
import { highPeak } from './take/high-peak';
import { hum } from './take/hum';
import { limited } from './take/limited';
import { lossy } from './take/lossy';
import { offLevel } from './take/off-level';
import { offset } from './take/offset';
import { polarity } from './take/polarity';
import { silent } from './take/silent';
import { tonePresent } from './take/tone-present';
import { tooShort } from './take/too-short';
import { wrongChannels } from './take/wrong-channels';
import { wrongDepth } from './take/wrong-depth';
import { wrongRate } from './take/wrong-rate';

/** All checks; problems before cautions. */
const CHECKS: readonly Check[] = [
  clipped,
  silent,
  tooShort,
  dropouts,
  wrongRate,
  wrongChannels,
  wrongDepth,
  highPeak,
  offLevel,
  hum,
  offset,
  polarity,
  limited,
  lossy,
  tonePresent,
];

/** What is odd in music is wanted elsewhere: silence in a noise floor, a tone in a test sound. */
const ONLY_IN_MUSIC: readonly Check[] = [silent, offLevel, limited, lossy, tonePresent];
const MUSIC: ReadonlySet<string> = new Set<ProgrammeId>(['performance', 'speech', 'backing']);

/**
 * Runs every check on a take among its set. They warn, they never block.
 * @param programme the step of the programme that the take holds
 */
export function checkTake(
  take: TakeFacts,
  set: readonly TakeFacts[],
  programme: ProgrammeId = 'performance',
): CheckRemark[] {
  const wanted = CHECKS.filter((check) => {
    // Where everybody else rests, a backing track has nothing to say.
    if (check === silent && programme === 'backing') return false;
    return MUSIC.has(programme) || !ONLY_IN_MUSIC.includes(check);
  });
  return wanted.flatMap((check) => check(take, set) ?? []);
}

import { renderToStaticMarkup } from 'react-dom/server';
import { servedCopy } from '@/core/matching/copy';
import type { VerdictJob } from '@/steps/results/verdict/job';
import { type VerdictFacts, VerdictPage } from '@/steps/results/verdict/VerdictPage';
import { readMaster } from './master';

/** So that it goes into a mail. */
const MOST_BYTES = 10e6;
/** Of 24-bit sound in Base64, with room for the text. */
const MOST_SOUND = 9.4e6;

const TOO_LONG =
  'The clips are too long for a file of less than 10 MB, so their sound is not in it; they can be heard where this was made.';

/** One HTML file with everything in it, under 10 MB. */
export async function verdictFile({ facts, clips, player }: VerdictJob): Promise<string> {
  const sound: string[] = [];
  for (const { audioId, seeds, levelLufs } of clips) {
    const copy = servedCopy(await readMaster(audioId), { seeds, levelLufs, gainDb: 0 });
    sound.push(Buffer.from(copy).toString('base64'));
  }
  const page = (held: VerdictFacts, heard: readonly string[]) =>
    `<!DOCTYPE html>${renderToStaticMarkup(<VerdictPage facts={held} clips={heard} player={player} />)}`;
  const length = sound.reduce((sum, { length: own }) => sum + own, 0);
  const whole = length <= MOST_SOUND ? page(facts, sound) : '';
  if (whole && Buffer.byteLength(whole) < MOST_BYTES) return whole;
  return page({ ...facts, pair: null, silent: TOO_LONG }, []);
}

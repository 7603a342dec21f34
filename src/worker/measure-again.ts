import type { ClipSpectra } from '@/core/spectrum/clip-spectra';
import { log } from '@/platform/log';
import { keepSpectra, staleSet } from '@/steps/match/service';
import { withoutStandings, writeStandings } from '@/steps/results/service';
import { type Inspection, keepMeasuredAgain, staleTake } from '@/steps/takes/service';
import type { Run } from './jobs/job';

/** Before the first of all. */
const FIRST = '00000000-0000-0000-0000-000000000000';

async function takesAgain(run: Run): Promise<void> {
  for (let take = await staleTake(FIRST); take; take = await staleTake(take.id)) {
    const { audioId, channels } = take;
    try {
      const found = await run<Inspection>('inspectTake', { audioId, channels });
      if (found.outcome === 'ready') await keepMeasuredAgain(take, found);
    } catch (error) {
      log.error({ err: error, take: take.id }, 'measuring again');
    }
  }
}

async function spectraAgain(run: Run): Promise<void> {
  for (let set = await staleSet(FIRST); set; set = await staleSet(set.id)) {
    try {
      await keepSpectra(set, await run<ClipSpectra[]>('pictureClips', { clips: set.clips }));
    } catch (error) {
      log.error({ err: error, clipSet: set.id }, 'picturing again');
    }
  }
}

async function standingsAgain(): Promise<void> {
  for (let one = await withoutStandings(FIRST); one; one = await withoutStandings(one.id)) {
    try {
      await writeStandings(one, new Date());
    } catch (error) {
      log.error({ err: error, sitting: one.id }, 'writing down how chains stood');
    }
  }
}

/**
 * Measures again, one after another, what an older version measured: bytes never change, so nothing is lost by it.
 * What cannot be read now keeps what it has.
 */
export async function measureAgain(run: Run): Promise<void> {
  await standingsAgain();
  await takesAgain(run);
  await spectraAgain(run);
}

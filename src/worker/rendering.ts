import { SAME_GAIN_MOST_LUFS } from '@/core/matching/methods';
import { trainingClips, type TrainingVariant } from '@/core/simulation/training';
import { FloatClip } from '@/core/wav/float-clip';
import type { RenderedSet, RenderOrder } from '@/steps/match/service';
import type { Report, Run } from './jobs/job';
import type { AlignedTake, AlignOrder } from './tasks/align';
import type { RenderedClips } from './tasks/render';
import type { Refusal } from './tasks/reporting';

/** Aligning is about this share of the work, the first time. */
const ALIGNING = 0.3;
const KEPT_FOR_MS = 60_000;
const MOST_BYTES = 64 << 20;

/** The takes of one passage, aligned lately or being aligned: its contexts begin with the same. */
interface Aligning {
  key: string;
  takes: Promise<AlignedTake[] | Refusal>;
  /** Of every set that waits for them. */
  reports: Report[];
}

let lately: Aligning | null = null;
let forgetting: NodeJS.Timeout | undefined;

function alignedTakes(
  order: AlignOrder,
  run: Run,
  report: Report,
): Promise<AlignedTake[] | Refusal> {
  clearTimeout(forgetting);
  const key = JSON.stringify(order);
  const own = lately?.key === key ? lately : begin(key, order, run);
  own.reports.push(report);
  lately = own;
  const forget = () => {
    if (lately === own) lately = null;
  };
  void own.takes.then((made) => {
    own.reports.length = 0;
    const bytes = 'refused' in made ? 0 : made.reduce((sum, one) => sum + one.bytes.length, 0);
    if ('refused' in made || bytes > MOST_BYTES) return forget();
    clearTimeout(forgetting);
    forgetting = setTimeout(forget, KEPT_FOR_MS).unref();
  }, forget);
  return own.takes;
}

function begin(key: string, order: AlignOrder, run: Run): Aligning {
  const reports: Report[] = [];
  const takes = alignAll(order, run, (share) => reports.forEach((tell) => tell(share)));
  return { key, takes, reports };
}

/** What tells where a take lies: variants of one chain share theirs. */
function placeOf({ audioId, channels, alignment, delayMs, blend }: AlignOrder['takes'][number]) {
  return JSON.stringify([audioId, channels, alignment, delayMs, blend]);
}

/** Takes side by side, as many at a time as there are threads. */
async function alignAll(
  order: AlignOrder,
  run: Run,
  report: Report,
): Promise<AlignedTake[] | Refusal> {
  let done = 0;
  const laid = new Map<string, Promise<AlignedTake | Refusal>>();
  const lay = (index: number) => {
    const key = placeOf(order.takes[index]!);
    const known = laid.get(key);
    if (known) return known;
    const one = run<AlignedTake | Refusal>('alignTake', { order, index });
    laid.set(key, one);
    return one;
  };
  // A variant of the reference lies where that does.
  void lay(order.referenceIndex).catch(() => undefined);
  const made = await Promise.all(
    order.takes.map(async (_, index) => {
      const one = await lay(index);
      report((ALIGNING * ++done) / order.takes.length);
      return one;
    }),
  );
  const aligned: AlignedTake[] = [];
  for (const one of made) {
    if ('refused' in one) return one;
    aligned.push(one);
  }
  return aligned;
}

const phrases = new Map<number, Promise<TrainingVariant[]>>();

/** The phrases for setting the level and for practice, played once for each rate. */
function phrasesAt(sampleRateHz: number, run: Run): Promise<TrainingVariant[]> {
  const known = phrases.get(sampleRateHz);
  if (known) return known;
  const played = run<TrainingVariant[]>('playTrainingPhrases', { sampleRateHz });
  phrases.set(sampleRateHz, played);
  played.catch(() => phrases.delete(sampleRateHz));
  return played;
}

/** Aligns, processes, matches and renders a set of clips. */
export async function renderSet(
  order: RenderOrder,
  run: Run,
  report: Report,
): Promise<RenderedSet | Refusal> {
  const { takes, referenceIndex, passageFromS, passageToS, method } = order;
  if (referenceIndex < 0) {
    return { refused: 'The reference has no take any more; choose another and match again.' };
  }
  const withTone = method === 'tone';
  const toAlign = { takes, referenceIndex, passageFromS, passageToS, withTone };
  const aligned = await alignedTakes(toAlign, run, report);
  if ('refused' in aligned) return aligned;
  const { sampleRateHz } = FloatClip.from(aligned[referenceIndex]!.bytes);
  const [made, played] = await Promise.all([
    run<RenderedClips | Refusal>('renderClips', { order, aligned }, (share) =>
      report(ALIGNING + (1 - ALIGNING) * share),
    ),
    phrasesAt(sampleRateHz, run),
  ]);
  if ('refused' in made) return made;
  // Whoever sets the level by it shall not be startled by a clip that is louder.
  const loudest = Math.max(...made.result.clips.map(({ afterLufs }) => afterLufs ?? -Infinity));
  const level = Number.isFinite(loudest) ? loudest : SAME_GAIN_MOST_LUFS;
  return { ...made, training: trainingClips(played, made.channels, level) };
}

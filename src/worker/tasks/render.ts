import { inMemory, LEAD_S, MatchError } from '@/core/matching/align';
import { type Context, processOf, type Toning } from '@/core/matching/contexts';
import { matchAligned } from '@/core/matching/match';
import { throughOwnStages } from '@/core/matching/variants';
import { offsetOf } from '@/core/processing/stages';
import { NO_PROCESSING } from '@/core/processing/settings';
import { stereoImage } from '@/core/signal/stereo-image';
import { clipSpectra } from '@/core/spectrum/clip-spectra';
import { FloatClip } from '@/core/wav/float-clip';
import type { RenderedSet, RenderOrder } from '@/steps/match/service';
import { alignedClip, type AlignedTake, opened, stretch } from './align';
import { type Refusal, sentence, type WithProgress } from './reporting';

const FADE_S = 0.01;

export type RenderedClips = Omit<RenderedSet, 'training'>;

/** Processes, matches and renders takes that are aligned already. */
export async function renderClips({
  order,
  aligned,
  progress,
}: { order: RenderOrder; aligned: AlignedTake[] } & WithProgress): Promise<
  RenderedClips | Refusal
> {
  const { takes, referenceIndex, recipe } = order;
  const heard = aligned.map(alignedClip);
  const { sampleRateHz } = heard[referenceIndex]!.sound;
  const context = await contextOf(order, sampleRateHz);
  if ('refused' in context) return context;
  const toning = new Map<number, Toning>();
  const onToning = (index: number, bands: Toning) => toning.set(index, bands);
  try {
    const own = throughOwnStages(
      takes.map(({ chainName, chainId, stages }) => ({ name: chainName, chainId, stages })),
      heard,
      sampleRateHz,
      inMemory(sampleRateHz),
      onToning,
    );
    const { clips, ...result } = matchAligned(
      {
        sampleRateHz,
        takes: takes.map((take) => ({
          name: take.chainName,
          offsetDb: recipe.offsets[take.chainId],
          recordedGainDb: take.recordedGainDb ?? undefined,
          testLufs: take.testLufs ?? undefined,
          onPurposeDb: offsetOf(take.stages),
        })),
        reference: referenceIndex,
        method: order.method,
        fadeS: FADE_S,
        process: processOf(context, sampleRateHz, onToning),
        seed: order.seed,
      },
      own,
      (index) => {
        const { sound, lead } = own[index]!;
        return FloatClip.empty(sound.channels, sound.frames - lead, sampleRateHz);
      },
      (share) => progress?.postMessage(0.9 * share),
    );
    const first = clips[0]!;
    const sounds = clips.map(({ sound }) => sound);
    const spectra = clipSpectra(sounds[referenceIndex]!, sounds, sampleRateHz);
    return {
      result: {
        ...result,
        clips: clips.map((clip, i) => ({
          delaySamples: clip.delaySamples,
          polarityInverted: clip.polarityInverted,
          coherence: clip.coherence,
          gainDb: clip.gainDb,
          beforeLufs: clip.beforeLufs,
          beforeRmsDbfs: clip.beforeRmsDbfs,
          spectra: spectra[i]!,
          details: {
            driftPpm: clip.driftPpm,
            blend: clip.blend,
            image: stereoImage(clip.sound),
            toning: toning.get(i) ?? null,
            ...variantFacts(takes[i]!),
          },
          afterLufs: clip.afterLufs,
          residualLu: clip.residualLu,
          truePeakDbtp: clip.truePeakDbtp,
          master: clip.sound.bytes,
        })),
      },
      sampleRateHz,
      resampled: aligned.flatMap(({ ownHz }, i) =>
        ownHz === sampleRateHz ? [] : [{ chain: takes[i]!.chainName, fromHz: ownHz }],
      ),
      channels: first.sound.channels,
      frames: first.sound.frames,
    };
  } catch (error) {
    if (error instanceof MatchError) return { refused: sentence(error.message) };
    throw error;
  }
}

/** What is written down of a variant; nothing of other chains. */
function variantFacts({ variantOf, stages }: RenderOrder['takes'][number]) {
  return variantOf === null ? {} : { variantOf, stages, onPurposeDb: offsetOf(stages) };
}

/** The ordered context with what it needs: settings in the order of the takes, the backing's sound. */
async function contextOf(
  { recipe, takes, backing, passageFromS, passageToS }: RenderOrder,
  sampleRateHz: number,
): Promise<Context | Refusal> {
  const { context } = recipe;
  if (context.kind === 'tailored') {
    const settings = takes.map(({ chainId }) => context.settings[chainId] ?? NO_PROCESSING);
    return { kind: 'tailored', settings };
  }
  if (context.kind !== 'mix') return context;
  if (!backing) return { refused: 'The backing track is not there any more; drop it again.' };
  const file = await opened(backing.audioId, backing.channels);
  if (passageToS > file.header.durationS + 1e-6) {
    return {
      refused: `The backing track ends at ${file.header.durationS.toFixed(1)} s, before the passage does; mark the passage earlier or drop a longer one.`,
    };
  }
  const leadS = Math.min(LEAD_S, passageFromS);
  const fromS = Math.floor(passageFromS - leadS);
  const sound = await stretch(file, fromS, Math.ceil(passageToS), sampleRateHz);
  const begin = Math.round((passageFromS - leadS - fromS) * sampleRateHz);
  const length = Math.round((passageToS - passageFromS + leadS) * sampleRateHz);
  return {
    kind: 'mix',
    backing: FloatClip.of(
      sound.map((samples) => samples.subarray(begin, begin + length)),
      sampleRateHz,
    ),
    balanceDb: context.balanceDb,
  };
}

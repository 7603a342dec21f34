import { DEFAULT_SEARCH_S } from '@/core/alignment/delay';
import { type Context, processOf, type Toning } from '@/core/matching/contexts';
import { MatchError, matchClips, type Placement } from '@/core/matching/match';
import { printedToneDbfs } from '@/core/loudness/tone';
import { NO_PROCESSING } from '@/core/processing/settings';
import { resample } from '@/core/signal/resample';
import { stereoImage } from '@/core/signal/stereo-image';
import { clipPictures } from '@/core/spectrum/pictures';
import { settlingClips } from '@/core/simulation/settling';
import type { ByteSource, WavHeader } from '@/core/wav/format';
import { readFrames, readWavHeader } from '@/core/wav/read';
import { encodeWav } from '@/core/wav/write';
import { audioSource } from '@/platform/audio-store';
import { db } from '@/platform/database';
import type { RenderedSet, RenderOrder } from '@/steps/match/service';
import { type Refusal, sentence, type WithProgress } from './reporting';

const FADE_S = 0.01;
/** A printed tone is looked for at the beginning of a take, and around the passage. */
const TONE_WITHIN_S = 60;
/** What a process needs before the passage to settle. */
const LEAD_S = 1;

interface Opened {
  source: ByteSource;
  header: WavHeader;
  only: number[] | null;
}

async function opened(audioId: number, only: number[] | null): Promise<Opened> {
  const source = await audioSource(db(), audioId);
  return { source, header: await readWavHeader(source), only };
}

/** A stretch of a take at the rate of the set; whole seconds begin on a sample at every rate. */
async function stretch(
  { source, header, only }: Opened,
  fromS: number,
  toS: number,
  rate: number,
): Promise<Float64Array[]> {
  const own = header.format.sampleRateHz;
  const frames = await readFrames(source, header, fromS * own, toS * own, only);
  return frames.map((samples) => resample(samples, own, rate));
}

/** Where takes were found to lie in time; every context of a passage asks for the same. */
const placed = new Map<string, Placement>();
const MOST_PLACED = 500;

function once(key: string, find: () => Placement): Placement {
  const found = placed.get(key) ?? find();
  if (placed.size >= MOST_PLACED) placed.clear();
  placed.set(key, found);
  return found;
}

/** Reads the passage of every take with room for the search, processes, matches, and renders. */
export async function renderClips({
  order,
  progress,
}: { order: RenderOrder } & WithProgress): Promise<RenderedSet | Refusal> {
  const { takes, passageFromS, passageToS, referenceIndex, recipe } = order;
  if (referenceIndex < 0) {
    return { refused: 'The reference has no take any more; choose another and match again.' };
  }
  const files: Opened[] = [];
  for (const [i, { audioId, channels }] of takes.entries()) {
    files.push(await opened(audioId, channels));
    progress?.postMessage((0.1 * (i + 1)) / takes.length);
  }
  const { sampleRateHz } = files[referenceIndex].header.format;
  const short = files.findIndex(
    ({ header }, i) =>
      passageToS + (i === referenceIndex ? 0 : takes[i].delayMs / 1000) > header.durationS + 1e-6 &&
      (i === referenceIndex || takes[i].alignment === 'hand'),
  );
  if (short >= 0) {
    return { refused: `The passage ends after ${takes[short].chainName} does; mark it anew.` };
  }
  const hands = takes.map(({ delayMs }) => Math.abs(delayMs) / 1000);
  const wanted =
    DEFAULT_SEARCH_S + Math.max(...hands) + (order.method === 'tone' ? TONE_WITHIN_S : LEAD_S);
  const fromS = Math.max(0, Math.floor(passageFromS - wanted));
  const toS = Math.ceil(passageToS + DEFAULT_SEARCH_S + Math.max(...hands));
  const firstFrame = fromS * sampleRateHz;
  const tones: (number | undefined)[] = [];
  const resampled: { chain: string; fromHz: number }[] = [];
  for (const [i, file] of files.entries()) {
    const own = file.header.format.sampleRateHz;
    if (own !== sampleRateHz) resampled.push({ chain: takes[i].chainName, fromHz: own });
    const beginning =
      order.method === 'tone' && fromS > 0
        ? printedToneDbfs(await stretch(file, 0, Math.min(fromS, TONE_WITHIN_S), own), own)
        : null;
    tones.push(beginning ?? undefined);
    progress?.postMessage(0.1 + (0.2 * tones.length) / takes.length);
  }
  const sameSounds = JSON.stringify([
    takes[referenceIndex],
    passageFromS,
    passageToS,
    fromS,
    toS,
    sampleRateHz,
  ]);
  const context = await contextOf(order, sampleRateHz);
  if ('refused' in context) return context;
  const toning = new Map<number, Toning>();
  try {
    const { clips, ...result } = await matchClips(
      {
        sampleRateHz,
        takes: takes.map((take, i) => {
          const { blend } = take;
          return {
            name: take.chainName,
            channels: () => stretch(files[i], fromS, toS, sampleRateHz),
            alignment:
              take.alignment === 'hand'
                ? { by: 'hand', delaySamples: (take.delayMs / 1000) * sampleRateHz }
                : { by: take.alignment },
            toneDbfs: tones[i],
            offsetDb: recipe.offsets[take.chainId],
            blend: blend
              ? {
                  ...blend,
                  channels: async () =>
                    stretch(await opened(blend.audioId, blend.channels), fromS, toS, sampleRateHz),
                }
              : undefined,
          };
        }),
        reference: referenceIndex,
        passage: {
          from: Math.round(passageFromS * sampleRateHz) - firstFrame,
          to: Math.round(passageToS * sampleRateHz) - firstFrame,
        },
        method: order.method,
        fadeS: FADE_S,
        process: processOf(context, sampleRateHz, (index, bands) => toning.set(index, bands)),
        seed: order.seed,
        known: (i, find) => once(`${sameSounds} ${JSON.stringify(takes[i])}`, find),
      },
      (share) => progress?.postMessage(0.3 + 0.6 * share),
    );
    const [first] = clips;
    const sounds = clips.map(({ channels }) => channels);
    const pictures = clipPictures(sounds[referenceIndex], sounds, sampleRateHz);
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
          pictures: pictures[i],
          details: {
            driftPpm: clip.driftPpm,
            blend: clip.blend,
            image: stereoImage(clip.channels),
            toning: toning.get(i) ?? null,
          },
          afterLufs: clip.afterLufs,
          residualLu: clip.residualLu,
          truePeakDbtp: clip.truePeakDbtp,
          master: encodeWav(clip.channels, sampleRateHz, '32f'),
        })),
      },
      settling: settlingClips(sampleRateHz, first.channels.length, first.afterLufs),
      sampleRateHz,
      resampled,
      channels: first.channels.length,
      frames: first.channels[0].length,
    };
  } catch (error) {
    if (error instanceof MatchError) return { refused: sentence(error.message) };
    throw error;
  }
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
    backing: sound.map((samples) => samples.subarray(begin, begin + length)),
    balanceDb: context.balanceDb,
  };
}

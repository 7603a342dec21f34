import { DEFAULT_SEARCH_S } from '@/core/alignment/delay';
import { printedToneDbfs } from '@/core/loudness/tone';
import { alignTake as align, type AlignedClip, LEAD_S, MatchError } from '@/core/matching/align';
import { resample } from '@/core/signal/resample';
import { type Sound, soundOf } from '@/core/signal/sound';
import { FloatClip } from '@/core/wav/float-clip';
import type { ByteSource, WavHeader } from '@/core/wav/format';
import { readFrames, readWavHeader } from '@/core/wav/read';
import { audioSource } from '@/platform/audio-store';
import { db } from '@/platform/database';
import type { RenderOrder } from '@/steps/match/service';
import { type Refusal, sentence } from './reporting';

/** A printed tone is looked for at the beginning of a take, and around the passage. */
const TONE_WITHIN_S = 60;

/** What of an order tells how its takes lie in time; every context of a passage has the same. */
export type AlignOrder = Pick<
  RenderOrder,
  'takes' | 'referenceIndex' | 'passageFromS' | 'passageToS'
> & { withTone: boolean };

/** An aligned clip as it goes from thread to thread: its bytes lie in memory that all share. */
export type AlignedTake = Omit<AlignedClip, 'sound'> & {
  bytes: Uint8Array;
  /** Of the file. */
  ownHz: number;
};

export interface Opened {
  source: ByteSource;
  header: WavHeader;
  only: number[] | null;
}

export async function opened(audioId: number, only: number[] | null): Promise<Opened> {
  const source = await audioSource(db(), audioId);
  return { source, header: await readWavHeader(source), only };
}

/** A stretch of a take at the rate of the set; whole seconds begin on a sample at every rate. */
export async function stretch(
  { source, header, only }: Opened,
  fromS: number,
  toS: number,
  rate: number,
): Promise<Float64Array[]> {
  const own = header.format.sampleRateHz;
  const frames = await readFrames(source, header, fromS * own, toS * own, only);
  return frames.map((samples) => resample(samples, own, rate));
}

/** The reference of the takes before; a thread lays one take after another onto the same. */
let lately: { key: string; sound: WeakRef<Sound> } | null = null;

async function referenceOf(key: string, read: () => Promise<Sound>): Promise<Sound> {
  const known = lately?.key === key ? lately.sound.deref() : undefined;
  const sound = known ?? (await read());
  lately = { key, sound: new WeakRef(sound) };
  return sound;
}

/** Reads the passage of a take with room for the search, and lays it onto the reference. */
export async function alignTake({
  order,
  index,
}: {
  order: AlignOrder;
  index: number;
}): Promise<AlignedTake | Refusal> {
  const { takes, referenceIndex, passageFromS, passageToS, withTone } = order;
  const reference = takes[referenceIndex]!;
  const at = await opened(reference.audioId, reference.channels);
  const { sampleRateHz } = at.header.format;
  const take = takes[index]!;
  const own = index === referenceIndex ? at : await opened(take.audioId, take.channels);
  const endS = passageToS + (index === referenceIndex ? 0 : take.delayMs / 1000);
  const told = index === referenceIndex || take.alignment === 'hand';
  if (told && endS > own.header.durationS + 1e-6) {
    return { refused: `The passage ends after ${take.chainName} does; mark it anew.` };
  }
  const hands = Math.max(...takes.map(({ delayMs }) => Math.abs(delayMs) / 1000));
  const wanted = DEFAULT_SEARCH_S + hands + (withTone ? TONE_WITHIN_S : LEAD_S);
  const fromS = Math.max(0, Math.floor(passageFromS - wanted));
  const toS = Math.ceil(passageToS + DEFAULT_SEARCH_S + hands);
  const firstFrame = fromS * sampleRateHz;
  const heard = async (file: Opened) => soundOf(await stretch(file, fromS, toS, sampleRateHz));
  const ownHz = own.header.format.sampleRateHz;
  const beginning =
    withTone && fromS > 0
      ? printedToneDbfs(
          soundOf(await stretch(own, 0, Math.min(fromS, TONE_WITHIN_S), ownHz)),
          ownHz,
        )
      : null;
  const key = JSON.stringify([reference.audioId, reference.channels, fromS, toS]);
  const { blend } = take;
  try {
    const { sound, ...facts } = await align(
      {
        sampleRateHz,
        takes: takes.map((one, i) => ({
          name: one.chainName,
          sound: () => heard(i === index ? own : at),
          alignment:
            one.alignment === 'hand'
              ? { by: 'hand', delaySamples: (one.delayMs / 1000) * sampleRateHz }
              : { by: one.alignment },
          toneDbfs: i === index ? (beginning ?? undefined) : undefined,
          blend:
            i === index && blend
              ? {
                  ...blend,
                  sound: async () => heard(await opened(blend.audioId, blend.channels)),
                }
              : undefined,
        })),
        reference: referenceIndex,
        passage: {
          from: Math.round(passageFromS * sampleRateHz) - firstFrame,
          to: Math.round(passageToS * sampleRateHz) - firstFrame,
        },
        withTone,
        withLoudness: true,
      },
      index,
      await referenceOf(key, () => heard(at)),
      (channels, frames) => FloatClip.empty(channels, frames, sampleRateHz, shared),
    );
    return { ...facts, bytes: sound.bytes, ownHz };
  } catch (error) {
    if (error instanceof MatchError) return { refused: sentence(error.message) };
    throw error;
  }
}

const shared = (bytes: number) => new Uint8Array(new SharedArrayBuffer(bytes));

/** The clip that a thread made. */
export function alignedClip({ bytes, ...facts }: AlignedTake): AlignedClip<FloatClip> {
  return { ...facts, sound: FloatClip.from(bytes) };
}

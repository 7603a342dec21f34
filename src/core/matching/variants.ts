import { loudnessOf } from '@/core/loudness/meter';
import { stageKindOf, type StageSettings } from '@/core/processing/stages';
import type { StagePlace } from '@/core/processing/stages/stage-kind';
import type { Sound, WritableSound } from '@/core/signal/sound';
import { type Stage, throughStages } from '@/core/signal/stage';
import type { AlignedClip, RoomFor } from './align';
import { MatchError } from './align';
import { atWorkingLevel, type Toning } from './contexts';

/** A take that goes through stages of its own before anything that the whole set goes through. */
export interface VariantTake {
  /** Name for messages. */
  name: string;
  chainId: string;
  /** In the order in which they are passed; none for a clip that stays as it is. */
  stages: readonly StageSettings[];
}

/**
 * Sends each variant of a set through its own stages, from one loudness on; other clips stay what they were. The
 * lead before the passage goes through as well, so that filters and compressors have settled.
 * @param clips in the order of `takes`
 * @param roomFor room for a clip that is made
 * @param onToning told what a tone match does to the clip of an index, dB in each band
 * @returns the clips, with the loudness that a variant has then
 * @throws MatchError for silence, or where a stage wants the clip of a chain that is not in the set
 */
export function throughOwnStages<Room extends WritableSound>(
  takes: readonly VariantTake[],
  clips: readonly AlignedClip<Room>[],
  sampleRateHz: number,
  roomFor: RoomFor<Room>,
  onToning: (index: number, toning: Toning) => void = () => undefined,
): AlignedClip<Room>[] {
  return takes.map((take, index) => {
    const clip = clips[index]!;
    if (take.stages.length === 0) return clip;
    const { channels, frames } = clip.sound;
    const pass = (from: Room, stages: readonly Stage[]): Room => {
      if (stages.length === 0) return from;
      const room = roomFor(channels, frames);
      throughStages(from, stages, (block, at) => room.write(at, block));
      return room;
    };
    const [there, back] = atWorkingLevel(clip.loudness, []) as [Stage, Stage];
    let sound = clip.sound;
    let waiting: Stage[] = [there];
    const place: StagePlace = {
      channels,
      sampleRateHz,
      sound: () => sound,
      clipOf: (chainId) => clipOfChain(takes, clips, chainId, take.name),
      onToning: (bands) => onToning(index, bands),
    };
    for (const settings of take.stages) {
      const kind = stageKindOf(settings);
      if (kind.listens) {
        sound = pass(sound, waiting);
        waiting = [];
      }
      waiting.push(...kind.make(place, settings));
    }
    sound = pass(sound, [...waiting, back]);
    return { ...clip, sound, loudness: loudnessOf(sound, sampleRateHz) };
  });
}

function clipOfChain(
  takes: readonly VariantTake[],
  clips: readonly AlignedClip[],
  chainId: string,
  name: string,
): Sound {
  const at = takes.findIndex((take) => take.chainId === chainId);
  if (at < 0) {
    throw new MatchError(
      `${name} takes its tone from a chain without a clip in this set; let that chain take part`,
    );
  }
  return clips[at]!.sound;
}

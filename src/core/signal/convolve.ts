import { multiplySpectra, nextPowerOfTwo, restoreReal, spectrumOf, transformReal } from './fft';
import type { Stage } from './stage';

const { max, min } = Math;

/** Transforms are at least this long; shorter ones cost more than they save. */
const LEAST_SIZE = 1024;

interface ChannelState {
  /** What came in since the last transform. */
  waiting: Float64Array;
  /** What the last transform made of what came in before. */
  made: Float64Array;
  /** What rings on beyond that. */
  tail: Float64Array;
}

/**
 * Sound through an impulse response (overlap-add).
 * @param middle samples of the response before its middle
 */
export function convolver(channels: number, taps: Float64Array, middle: number): Stage {
  const size = max(LEAST_SIZE, 4 * nextPowerOfTwo(taps.length));
  const piece = size - taps.length + 1;
  const response = spectrumOf(taps, size);
  const room = new Float64Array(size);
  const spectrum = new Float64Array(size + 2);
  const states = Array.from({ length: channels }, (): ChannelState => ({
    waiting: new Float64Array(piece),
    made: new Float64Array(piece),
    tail: new Float64Array(size - piece),
  }));
  const transform = ({ waiting, made, tail }: ChannelState) => {
    room.set(waiting);
    room.fill(0, piece);
    transformReal(spectrum, room);
    multiplySpectra(spectrum, response);
    restoreReal(room, spectrum);
    for (let n = 0; n < piece; n++) made[n] = room[n]!;
    for (let n = 0; n < tail.length; n++) {
      made[n]! += tail[n]!;
      tail[n] = room[piece + n]!;
    }
  };
  let held = 0;
  return {
    latency: piece + middle,
    run: (block) => {
      const { length } = block[0]!;
      for (let at = 0; at < length;) {
        const count = min(length - at, piece - held);
        for (const [c, samples] of block.entries()) {
          const { waiting, made } = states[c]!;
          waiting.set(samples.subarray(at, at + count), held);
          samples.set(made.subarray(held, held + count), at);
        }
        at += count;
        held += count;
        if (held === piece) {
          states.forEach(transform);
          held = 0;
        }
      }
    },
  };
}

/** Lets sound through `frames` later. */
export function delayLine(channels: number, frames: number): Stage {
  const rings = Array.from({ length: channels }, () => new Float64Array(frames));
  const newest = new Float64Array(frames);
  let place = 0;
  return {
    latency: frames,
    run: (block) => {
      const { length } = block[0]!;
      for (let at = 0; at < length;) {
        const count = min(length - at, frames - place);
        for (const [c, samples] of block.entries()) {
          const taken = samples.subarray(at, at + count);
          const late = rings[c]!.subarray(place, place + count);
          newest.set(taken);
          taken.set(late);
          late.set(newest.subarray(0, count));
        }
        at += count;
        place = (place + count) % frames;
      }
    },
  };
}

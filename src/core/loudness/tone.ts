import { hannWindow, nextPowerOfTwo, spectrumOf } from '@/core/signal/fft';
import { blockOf, type Sound } from '@/core/signal/sound';
import { powerToDb } from '@/core/signal/units';

const TONE_HZ = 1000;
const FRAME_S = 0.05;
const SHORTEST_S = 1;
/** Share of a frame's power that must lie within ±1/6 octave for it to count as tone. */
const PURITY = 0.9;

/**
 * Level of a printed 1 kHz tone: the first stretch of at least a second in which nearly all power lies
 * within ±1/6 octave. Its outer frames are left out, so that fades do not count.
 * @returns dBFS as mean square (a full-scale sine reads -3.01), or null when there is no such tone
 */
export function printedToneDbfs(sound: Sound, sampleRateHz: number): number | null {
  const frame = Math.round(FRAME_S * sampleRateHz);
  const size = nextPowerOfTwo(frame);
  const window = hannWindow(frame);
  const windowPower = window.reduce((sum, w) => sum + w * w, 0);
  const low = (TONE_HZ * 2 ** (-1 / 6) * size) / sampleRateHz;
  const high = (TONE_HZ * 2 ** (1 / 6) * size) / sampleRateHz;
  const needed = Math.ceil(SHORTEST_S / FRAME_S) - 1;
  let run: number[] = [];
  const room = blockOf(sound.channels, frame);
  for (let at = 0; at + frame <= sound.frames; at += frame) {
    let inBand = 0;
    let total = 0;
    sound.read(at, room);
    for (const samples of room) {
      const spectrum = spectrumOf(
        window.map((w, n) => w * samples[n]!),
        size,
      );
      for (let k = 1; k < size / 2; k++) {
        const power = spectrum[2 * k]! ** 2 + spectrum[2 * k + 1]! ** 2;
        total += power;
        if (k >= low - 1 && k <= high + 1) inBand += power;
      }
    }
    const meanSquare = (2 * inBand) / (size * windowPower * sound.channels);
    if (total > 0 && inBand / total >= PURITY && meanSquare > 1e-9) {
      run.push(meanSquare);
    } else if (run.length >= needed) {
      break;
    } else {
      run = [];
    }
  }
  if (run.length < needed) return null;
  const inner = run.slice(2, -2);
  return powerToDb(inner.reduce((sum, value) => sum + value, 0) / inner.length);
}

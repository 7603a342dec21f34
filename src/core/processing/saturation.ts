import { designBiquad, filterStage } from '@/core/signal/biquad';
import { convolver } from '@/core/signal/convolve';
import { fractionalTaps } from '@/core/signal/interpolation';
import { blockOf, firstOf } from '@/core/signal/sound';
import type { Stage } from '@/core/signal/stage';
import { dbToAmplitude } from '@/core/signal/units';
import { WORKING_LUFS } from './dynamics';

const { cosh, tanh } = Math;

export interface SaturationSettings {
  /** By how much the clip's loudness (-23 LUFS) stands over the bend of the curve, dB. */
  driveDb: number;
  /** Odd harmonics alone, or even ones with them. */
  curve: 'symmetric' | 'asymmetric';
}

/** How far from its middle the asymmetric curve is worked. */
const BIAS = 0.4;
/** Harmonics are made at so many times the rate, and what lies above the band is taken out again. */
const TIMES = 4;
const HALF_TAPS = 48;
const BETA = 9;
/** An asymmetric curve makes a standing offset; it goes out below hearing. */
const DC_HZ = 8;

/** Slope 1 through 0, bent by the hyperbolic tangent; `u` counts in units of the bend. */
export function saturated(u: number, curve: SaturationSettings['curve']): number {
  if (curve === 'symmetric') return tanh(u);
  return (tanh(u + BIAS) - tanh(BIAS)) * cosh(BIAS) ** 2;
}

/** Reads sound a share of a sample later (or earlier, below 0), as every other share does equally late. */
function shifted(channels: number, fraction: number): Stage {
  const early = fraction < 0;
  const taps = fractionalTaps(early ? 1 + fraction : fraction, HALF_TAPS, BETA).reverse();
  const response = new Float64Array(taps.length + 1);
  response.set(taps, early ? 1 : 0);
  return convolver(channels, response, HALF_TAPS);
}

/**
 * Soft saturation of sound at the working loudness, made at four times its rate so that harmonics beyond the band
 * do not fold back: each of four shares of a sample is read by windowed sinc, bent, and read back.
 */
export function saturation(
  channels: number,
  sampleRateHz: number,
  { driveDb, curve }: SaturationSettings,
): Stage {
  const gain = dbToAmplitude(driveDb - WORKING_LUFS);
  const phases = Array.from({ length: TIMES }, (_, p) => ({
    up: shifted(channels, p / TIMES),
    down: shifted(channels, -p / TIMES),
    room: blockOf(channels),
  }));
  const steady = filterStage(
    channels,
    curve === 'asymmetric' ? [designBiquad('highpass', DC_HZ, sampleRateHz, Math.SQRT1_2)] : [],
  );
  return {
    latency: phases[0]!.up.latency + phases[0]!.down.latency,
    run: (block) => {
      const made = phases.map(({ up, down, room }) => {
        const part = firstOf(room, block[0]!.length);
        for (const [c, samples] of part.entries()) samples.set(block[c]!);
        up.run(part);
        for (const samples of part) {
          for (let n = 0; n < samples.length; n++) {
            samples[n] = saturated(gain * samples[n]!, curve) / (TIMES * gain);
          }
        }
        down.run(part);
        return part;
      });
      for (const [c, samples] of block.entries()) {
        samples.fill(0);
        for (const part of made) {
          for (let n = 0; n < samples.length; n++) samples[n]! += part[c]![n]!;
        }
      }
      steady.run(block);
    },
  };
}

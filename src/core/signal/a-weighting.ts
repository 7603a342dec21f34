import { powerToDb } from './units';

/** A-weighting in dB at a frequency (IEC 61672-1), 0 dB at 1 kHz. */
export function aWeightingDb(frequencyHz: number): number {
  const f2 = frequencyHz * frequencyHz;
  const [a, b, c, d] = [20.598997, 107.65265, 737.86223, 12194.217].map((f) => f * f) as [
    number,
    number,
    number,
    number,
  ];
  const magnitude = (d * f2 * f2) / ((f2 + a) * Math.sqrt((f2 + b) * (f2 + c)) * (f2 + d));
  return 20 * Math.log10(magnitude) + 2;
}

/** A-weighted level of white noise below half the sample rate, relative to its flat level, in dB. */
export function aWeightedWhiteDb(sampleRateHz: number): number {
  const steps = 2000;
  let power = 0;
  for (let i = 0; i < steps; i++) {
    power += 10 ** (aWeightingDb(((i + 0.5) * sampleRateHz) / (2 * steps)) / 10);
  }
  return powerToDb(power / steps);
}

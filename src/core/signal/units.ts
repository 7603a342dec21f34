/** Level in decibels relative to digital full scale, a ratio, or as the name says. */
export type Decibels = number;

/** Amplitude ratio to decibels: 20·log10(x). Zero gives -Infinity. */
export function amplitudeToDb(amplitude: number): Decibels {
  return 20 * Math.log10(Math.abs(amplitude));
}

/** Decibels to amplitude ratio: 10^(dB/20). */
export function dbToAmplitude(db: Decibels): number {
  return 10 ** (db / 20);
}

/** Power (mean square) ratio to decibels: 10·log10(x). */
export function powerToDb(power: number): Decibels {
  return 10 * Math.log10(power);
}

/** Mean square over all channels; 0 for nothing. */
export function meanSquare(channels: readonly Float64Array[]): number {
  let sum = 0;
  let count = 0;
  for (const samples of channels) {
    for (let n = 0; n < samples.length; n++) sum += samples[n]! * samples[n]!;
    count += samples.length;
  }
  return count === 0 ? 0 : sum / count;
}

/** A finite number, or null where the level is undefined (digital silence). */
export function finiteOrNull(value: number): number | null {
  return Number.isFinite(value) ? value : null;
}

/** Speed of sound in dry air in m/s at a temperature in °C: 331.3 + 0.606·T. */
export function speedOfSoundMps(temperatureC: number): number {
  return 331.3 + 0.606 * temperatureC;
}

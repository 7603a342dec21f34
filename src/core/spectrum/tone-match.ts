import { convolver } from '@/core/signal/convolve';
import { inverseReal, nextPowerOfTwo, spectrumOf } from '@/core/signal/fft';
import type { Stage } from '@/core/signal/stage';
import { SIXTH_OCTAVES, THIRD_OCTAVES } from './bands';
import { binsOf, type Spectra } from './spectra';

const { cos, exp, log, log10, max, min, PI, round, sin } = Math;

export interface ToneMatchSettings {
  phase: 'minimum' | 'linear';
  /** Over how wide bands spectra are averaged before they are compared. */
  smoothing: 'third' | 'sixth';
  /** The equaliser never lifts or lowers by more, dB. */
  limitDb: number;
}

export const DEFAULT_TONE_MATCH: ToneMatchSettings = {
  phase: 'minimum',
  smoothing: 'third',
  limitDb: 9,
};

export interface ToneMatch {
  /** Impulse response of the equaliser. */
  taps: Float64Array;
  /** Samples that linear phase puts before the clip; 0 for minimum phase. */
  latency: number;
  /** What it does at each band's middle, dB; where it lifts, noise is lifted as well. */
  bands: { centerHz: number; db: number }[];
}

/** Long enough for a sixth at 40 Hz. */
const TAPS_S = 0.17;
/** Bands with less than this against the loudest are left alone: there is nothing but noise. */
const LEAST_DB = -70;

function bandPower(spectra: Spectra, of: Float64Array, band: { fromHz: number; toHz: number }) {
  const [first, last] = binsOf(spectra, { ...band, centerHz: 0 });
  let power = 0;
  for (let k = first; k <= last; k++) power += of[k]!;
  return power / (last - first + 1);
}

/**
 * An equaliser that gives a clip the average spectrum of its reference: the ratio of band powers,
 * without the difference of level, limited, drawn smoothly between bands.
 * @param spectra of the reference and the clip
 */
export function toneMatch(
  spectra: Spectra,
  { phase, smoothing, limitDb }: ToneMatchSettings,
): ToneMatch {
  const { sampleRateHz } = spectra;
  const bands = (smoothing === 'third' ? THIRD_OCTAVES : SIXTH_OCTAVES).filter(
    ({ toHz }) => toHz < sampleRateHz / 2,
  );
  const wanted = bands.map((band) => bandPower(spectra, spectra.xx, band));
  const has = bands.map((band) => bandPower(spectra, spectra.yy, band));
  const least = 10 ** (LEAST_DB / 10);
  const [topWanted, topHas] = [max(...wanted), max(...has)];
  const known = bands.map((_, i) => wanted[i]! > least * topWanted && has[i]! > least * topHas);
  const raw = bands.map((_, i) => (known[i] ? 10 * log10(wanted[i]! / has[i]!) : null));
  // The level is matched afterwards; only the shape counts here.
  const inMiddle = raw.filter(
    (db, i): db is number => db !== null && bands[i]!.centerHz >= 200 && bands[i]!.centerHz <= 5000,
  );
  const level = inMiddle.reduce((sum, db) => sum + db, 0) / max(1, inMiddle.length);
  const db = raw.map((value) => (value === null ? 0 : max(-limitDb, min(limitDb, value - level))));
  const size = nextPowerOfTwo(TAPS_S * sampleRateHz) * 2;
  const curve = (hz: number): number => {
    const at = log(max(hz, 1));
    const place = bands.findIndex(({ centerHz }) => log(centerHz) >= at);
    if (place === 0) return db[0]!;
    if (place < 0) return db[db.length - 1]!;
    const [a, b] = [log(bands[place - 1]!.centerHz), log(bands[place]!.centerHz)];
    const share = 0.5 - 0.5 * cos((PI * (at - a)) / (b - a));
    return db[place - 1]! + share * (db[place]! - db[place - 1]!);
  };
  const magnitudes = Float64Array.from(
    { length: size / 2 + 1 },
    (_, k) => 10 ** (curve((k * sampleRateHz) / size) / 20),
  );
  const shown = bands.map(({ centerHz }, i) => ({ centerHz, db: db[i]! }));
  return phase === 'linear'
    ? { ...linearPhase(magnitudes), bands: shown }
    : { taps: minimumPhase(magnitudes), latency: 0, bands: shown };
}

function linearPhase(magnitudes: Float64Array): { taps: Float64Array; latency: number } {
  const size = 2 * (magnitudes.length - 1);
  const spectrum = new Float64Array(size + 2);
  for (let k = 0; k < magnitudes.length; k++) spectrum[2 * k] = magnitudes[k]!;
  const impulse = inverseReal(spectrum);
  const latency = size / 4;
  const taps = new Float64Array(2 * latency);
  for (let n = 0; n < taps.length; n++) {
    const window = 0.5 - 0.5 * cos((2 * PI * n) / taps.length);
    taps[n] = window * impulse[(n - latency + size) % size]!;
  }
  return { taps, latency };
}

/** Minimum phase by the folded cepstrum (Oppenheim & Schafer, *Discrete-Time Signal Processing*, 13.5). */
function minimumPhase(magnitudes: Float64Array): Float64Array {
  const size = 2 * (magnitudes.length - 1);
  const logs = new Float64Array(size + 2);
  for (let k = 0; k < magnitudes.length; k++) logs[2 * k] = log(magnitudes[k]!);
  const cepstrum = inverseReal(logs);
  for (let n = 1; n < size / 2; n++) {
    cepstrum[n]! *= 2;
    cepstrum[size - n] = 0;
  }
  const folded = spectrumOf(cepstrum, size);
  for (let k = 0; k < magnitudes.length; k++) {
    const gain = exp(folded[2 * k]!);
    const angle = folded[2 * k + 1]!;
    folded[2 * k] = gain * cos(angle);
    folded[2 * k + 1] = gain * sin(angle);
  }
  const taps = inverseReal(folded).subarray(0, size / 2);
  const fade = round(taps.length / 8);
  for (let n = 0; n < fade; n++) taps[taps.length - 1 - n]! *= 0.5 - 0.5 * cos((PI * n) / fade);
  return taps;
}

/** The equaliser as a stage. */
export function toneMatchStage(
  channels: number,
  { taps, latency }: Pick<ToneMatch, 'taps' | 'latency'>,
): Stage {
  return convolver(channels, taps, latency);
}

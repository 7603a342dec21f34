import { designBiquad, filterInPlace } from '@/core/signal/biquad';
import { Random } from '@/core/signal/random';
import { dbToAmplitude } from '@/core/signal/units';
import { type InstrumentName, type Note, performPart, type Vowel } from './score';

const { sin, cos, PI, exp, sqrt, min, max, floor, round } = Math;

/** Control values are set this often and interpolated between. */
const FRAME = 128;
const REFERENCE_PA = 2e-5;

/** Sound pressure level at 1 m that the loudest note reaches, as energy mean, dB SPL. */
const LEVEL_AT_1M_DB: Record<InstrumentName, number> = {
  contralto: 78,
  cello: 76,
  clarinet: 77,
  reader: 62,
};

interface Formant {
  hz: number;
  amplitude: number;
  widthHz: number;
}

// Resonances typical of a low female voice: centre, level, width.
const VOWELS: Record<Vowel, [number, number, number][]> = {
  a: [
    [800, 0, 80],
    [1150, -4, 90],
    [2800, -20, 120],
    [3500, -30, 130],
    [4950, -46, 160],
  ],
  e: [
    [420, 0, 60],
    [1600, -20, 80],
    [2700, -26, 120],
    [3300, -32, 150],
    [4950, -48, 200],
  ],
  i: [
    [350, 0, 50],
    [1700, -20, 100],
    [2700, -26, 120],
    [3700, -32, 150],
    [4950, -50, 200],
  ],
  o: [
    [450, 0, 70],
    [800, -9, 80],
    [2830, -18, 100],
    [3500, -28, 130],
    [4950, -48, 150],
  ],
  u: [
    [325, 0, 50],
    [700, -12, 60],
    [2530, -28, 170],
    [3500, -36, 180],
    [4950, -56, 200],
  ],
};
const CELLO_BODY: [number, number, number][] = [
  [105, -3, 40],
  [190, 0, 60],
  [260, -3, 80],
  [420, -6, 140],
  [900, -10, 420],
  [1900, -15, 900],
  [3400, -24, 1600],
];

function formants(table: [number, number, number][]): Formant[] {
  return table.map(([hz, db, widthHz]) => ({ hz, amplitude: dbToAmplitude(db), widthHz }));
}

function resonance(at: readonly Formant[], frequencyHz: number): number {
  let sum = 0;
  for (const { hz, amplitude, widthHz } of at) {
    const x = (2 * (frequencyHz - hz)) / widthHz;
    sum += amplitude / sqrt(1 + x * x);
  }
  return sum;
}

interface Sounding {
  /** Amplitude of partial k (from 1) at its frequency, at a time in the note. */
  partial(k: number, frequencyHz: number, note: Note, atS: number, before: Note | null): number;
  attackS: number;
  releaseS: number;
  vibrato: { hz: number; cents: number; delayS: number };
  /** Loudness of breath or bow noise against the tone. */
  noiseDb: number;
  noiseHz: [number, number];
}

const CELLO_FORMANTS = formants(CELLO_BODY);
const VOWEL_FORMANTS = Object.fromEntries(
  Object.entries(VOWELS).map(([vowel, table]) => [vowel, formants(table)]),
) as Record<Vowel, Formant[]>;

/** A low female voice, singing. */
const VOICE: Sounding = {
  partial: (k, f, note, atS, before) => {
    const now = VOWEL_FORMANTS[note.syllable?.[1] ?? 'a'];
    const then = before ? VOWEL_FORMANTS[before.syllable?.[1] ?? 'a'] : now;
    const share = min(1, atS / 0.12);
    const tract = share * resonance(now, f) + (1 - share) * resonance(then, f);
    // Open glottis: a strong fundamental, then falling 6 dB more per octave than the tract says.
    return tract / (1 + f / 2600) + (k === 1 ? 0.25 : 0);
  },
  attackS: 0.07,
  releaseS: 0.12,
  vibrato: { hz: 5.3, cents: 28, delayS: 0.35 },
  noiseDb: -40,
  noiseHz: [1800, 9000],
};

const SOUNDING: Record<InstrumentName, Sounding> = {
  contralto: VOICE,
  // Spoken: no vibrato, and every sound begins and ends at once.
  reader: { ...VOICE, attackS: 0.03, releaseS: 0.06, vibrato: { hz: 1, cents: 0, delayS: 0 } },
  cello: {
    partial: (k, f) => (resonance(CELLO_FORMANTS, f) + 0.03) / k,
    attackS: 0.09,
    releaseS: 0.25,
    vibrato: { hz: 5, cents: 14, delayS: 0.3 },
    noiseDb: -36,
    noiseHz: [900, 6000],
  },
  clarinet: {
    partial: (k, f) => {
      // A closed cylinder: even partials weak below the cut-off of the tone holes.
      const even = k % 2 === 0 ? min(1, 0.06 + (f / 2500) ** 2) : 1;
      return even / (k * (1 + (f / 1500) ** 2));
    },
    attackS: 0.045,
    releaseS: 0.07,
    vibrato: { hz: 4.6, cents: 3, delayS: 0.5 },
    noiseDb: -42,
    noiseHz: [2000, 8000],
  },
};

/**
 * A made-up instrument or voice playing its part: sound pressure in pascal at 1 m on axis, in free
 * field. Additive: partials with moving resonances, vibrato, and breath or bow noise; the voice has consonants.
 * Deterministic from the seed; another seed is another performance of the same part.
 * @param untilS notes that begin later are left out
 */
export function performance(
  instrument: InstrumentName,
  sampleRateHz: number,
  seed: number,
  untilS = Number.POSITIVE_INFINITY,
): Float64Array {
  const random = Random.derived(seed, `performance of ${instrument}`);
  const notes = performPart(instrument, random).filter(({ startS }) => startS < untilS);
  const last = notes[notes.length - 1]!;
  const out = new Float64Array(round((last.startS + last.lengthS + 1) * sampleRateHz));
  notes.forEach((note, i) => {
    playNote(out, note, notes[i - 1] ?? null, SOUNDING[instrument], sampleRateHz, random);
    if (note.syllable) speakConsonant(out, note, sampleRateHz, random);
  });
  return scaled(out, LEVEL_AT_1M_DB[instrument]);
}

function playNote(
  out: Float64Array,
  note: Note,
  before: Note | null,
  sounding: Sounding,
  rate: number,
  random: Random,
): void {
  const first = max(0, round(note.startS * rate));
  const length = min(out.length - first, round((note.lengthS + sounding.releaseS) * rate));
  const baseHz = 440 * 2 ** ((note.pitch - 69) / 12);
  const glide = before && note.startS - before.startS - before.lengthS < 0.1;
  const fromCents = glide ? 100 * (before.pitch - note.pitch) : -40;
  const partials = min(90, floor(min(15000, rate * 0.45) / baseHz));
  const loudness = dbToAmplitude(note.levelDb);
  const phaseShift = random.uniform() * 2 * PI;
  let [phase, drift, shimmer] = [0, 0, 0];
  let amplitudes = new Float64Array(partials + 1);
  const noise = new Float64Array(length);
  const envelopeAt = (t: number) =>
    (1 - exp(-t / (sounding.attackS / 2.5))) *
    (t > note.lengthS ? exp(-(t - note.lengthS) / (sounding.releaseS / 4)) : 1);
  for (let start = 0; start < length; start += FRAME) {
    const t = start / rate;
    drift = 0.97 * drift + 0.7 * random.normal();
    shimmer = 0.95 * shimmer + 0.01 * random.normal();
    const depth = sounding.vibrato.cents * min(1, max(0, (t - sounding.vibrato.delayS) / 0.4));
    const cents =
      fromCents * exp(-t / 0.035) +
      drift +
      depth * sin(2 * PI * sounding.vibrato.hz * t + phaseShift);
    const hz = baseHz * 2 ** (cents / 1200);
    const envelope = envelopeAt(t) * loudness * (1 + shimmer);
    // Louder is brighter, as with real instruments.
    const tilt = 0.35 - 0.25 * envelope;
    const next = new Float64Array(partials + 1);
    for (let k = 1; k <= partials; k++) {
      next[k] = envelope * sounding.partial(k, k * hz, note, t, before) * k ** (0.25 - tilt);
    }
    const count = min(FRAME, length - start);
    const step = (2 * PI * hz) / rate;
    for (let n = 0; n < count; n++) {
      const share = n / FRAME;
      phase += step;
      // sin(kφ) by the Chebyshev recurrence: one multiplication per partial.
      const twice = 2 * cos(phase);
      let [previous, current, sum] = [0, sin(phase), 0];
      for (let k = 1; k <= partials; k++) {
        sum += current * (amplitudes[k]! + share * (next[k]! - amplitudes[k]!));
        [previous, current] = [current, twice * current - previous];
      }
      out[first + start + n]! += sum;
      noise[start + n] = random.normal() * envelope * (0.6 + 0.4 * cos(phase));
    }
    amplitudes = next;
  }
  const [low, high] = sounding.noiseHz;
  addFiltered(out, noise, first, rate, low, high, dbToAmplitude(sounding.noiseDb) * 3);
}

const CONSONANTS = {
  s: { hz: [5200, 10500], lengthS: 0.11, level: 0.16 },
  f: { hz: [2500, 9000], lengthS: 0.08, level: 0.05 },
  t: { hz: [3000, 8000], lengthS: 0.03, level: 0.18 },
  k: { hz: [1300, 3800], lengthS: 0.035, level: 0.16 },
  m: { hz: [150, 420], lengthS: 0.07, level: 0.05 },
} as const;

function speakConsonant(out: Float64Array, note: Note, rate: number, random: Random): void {
  const consonant = note.syllable?.[0];
  if (!consonant) return;
  const { hz, lengthS, level } = CONSONANTS[consonant];
  const length = round(lengthS * rate);
  const noise = Float64Array.from(
    { length },
    (_, n) => random.normal() * sin((PI * (n + 0.5)) / length) * dbToAmplitude(note.levelDb),
  );
  const first = max(0, round((note.startS - lengthS * 0.8) * rate));
  addFiltered(out, noise, first, rate, hz[0], hz[1], level * 2);
}

function addFiltered(
  out: Float64Array,
  noise: Float64Array,
  first: number,
  rate: number,
  lowHz: number,
  highHz: number,
  gain: number,
): void {
  filterInPlace(noise, [
    designBiquad('highpass', lowHz, rate, 0.7),
    designBiquad('lowpass', highHz, rate, 0.7),
  ]);
  const count = min(noise.length, out.length - first);
  for (let n = 0; n < count; n++) out[first + n]! += gain * noise[n]!;
}

/** Brings the loudest quarter second to a sound pressure level, as energy mean. */
function scaled(samples: Float64Array, levelDb: number): Float64Array {
  const window = 12000;
  let loudest = 0;
  for (let start = 0; start + window <= samples.length; start += window) {
    let energy = 0;
    for (let n = start; n < start + window; n++) energy += samples[n]! ** 2;
    loudest = max(loudest, energy / window);
  }
  const gain = (REFERENCE_PA * dbToAmplitude(levelDb)) / sqrt(loudest);
  return samples.map((x) => x * gain);
}

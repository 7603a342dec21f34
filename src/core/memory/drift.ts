import { THIRD_OCTAVES } from '@/core/spectrum/bands';
import { medianOf } from '@/core/statistics/percentile';

/** A test sound through a chain. */
export interface TestSound {
  /** Day of its recording, as 2027-03-14. */
  on: string;
  /** Levels in thirds of an octave, dB; null where there was nothing. */
  thirdsDb: readonly (number | null)[];
}

/** A band that stands elsewhere than on the first day. */
export interface MovedBand {
  centerHz: number;
  db: number;
}

/** What a chain's test sounds say over the years. */
export interface Drift {
  first: string;
  /** Every later day: how far the band that moved most is from where it was, and all that moved beyond doubt. */
  days: { on: string; most: MovedBand; moved: MovedBand[] }[];
  /** Within how much a band comes back when the sound is played again on one day, dB. */
  repeatsDb: number;
  /** How many times it was played again; 0: the limit is assumed. */
  repeats: number;
}

/** Taken where nobody played it twice on one day. */
const ASSUMED_DB = 1.5;
/** Less than that is the place of the microphone, dB. */
const LEAST_DB = 0.5;
/** Standard deviations of a difference: of thirty bands that stand still one moves so far by chance in one of twelve days. */
const BEYOND = 3;
/** Bands in common that make two spectra comparable. */
const FEWEST_BANDS = 12;

type Bands = readonly (number | null)[];

/**
 * By band, without the median over all bands that both have: gain and level of playing go with it, and what moves in
 * a few bands does not move the others.
 */
function differences(one: Bands, other: Bands): Bands | null {
  const raw = one.map((level, i) => {
    const against = other[i] ?? null;
    return level === null || against === null ? null : level - against;
  });
  const known = raw.filter((db) => db !== null);
  if (known.length < FEWEST_BANDS) return null;
  const level = medianOf(known);
  return raw.map((db) => (db === null ? null : db - level));
}

function averaged(all: readonly Bands[]): Bands {
  return THIRD_OCTAVES.map((_, i) => {
    const known = all.flatMap((bands) => bands[i] ?? []);
    return known.length === 0 ? null : known.reduce((sum, db) => sum + db, 0) / known.length;
  });
}

/**
 * How a chain's sound moved since it was first tested, against what it repeats to: three standard deviations of a
 * difference between two of one day, over all bands (as Bland & Altman 1986, who take two), no less than half a decibel.
 * The level is left out; it follows gain and loudspeaker.
 * @returns null where it was tested on one day only
 */
export function driftOf(sounds: readonly TestSound[]): Drift | null {
  const days = [...new Set(sounds.map(({ on }) => on))].sort();
  const of = (day: string) => sounds.filter(({ on }) => on === day).map(({ thirdsDb }) => thirdsDb);
  const again = days.flatMap((day) => {
    const [first, ...more] = of(day);
    return more.flatMap((bands) => {
      const apart = differences(bands, first!);
      return apart ? [apart.filter((db) => db !== null)] : [];
    });
  });
  const squares = again.flat().map((db) => db * db);
  const spread = Math.sqrt(squares.reduce((sum, x) => sum + x, 0) / squares.length);
  const repeatsDb = squares.length === 0 ? ASSUMED_DB : Math.max(BEYOND * spread, LEAST_DB);
  const [first, ...later] = days;
  const start = first === undefined ? [] : averaged(of(first));
  const seen = later.flatMap((on) => {
    const apart = differences(averaged(of(on)), start);
    if (!apart) return [];
    const bands = apart.flatMap((db, i) =>
      db === null ? [] : [{ centerHz: THIRD_OCTAVES[i]!.centerHz, db }],
    );
    const most = bands.reduce((far, one) => (Math.abs(one.db) > Math.abs(far.db) ? one : far));
    return [{ on, most, moved: bands.filter(({ db }) => Math.abs(db) > repeatsDb) }];
  });
  if (first === undefined || seen.length === 0) return null;
  return { first, days: seen, repeatsDb, repeats: again.length };
}

/** A resistor in place of the microphone: what the chain makes of it alone. */
export interface ResistorNoise {
  on: string;
  /** A-weighted, less the gain that was set: the noise at the input, dB. */
  atInputDb: number;
}

/** How a chain's own noise moved since it was first recorded. */
export interface NoiseDrift {
  first: string;
  days: { on: string; byDb: number; moved: boolean }[];
  repeatsDb: number;
  repeats: number;
}

/** Two noises of one day and gain differ by less; so does the reading of a gain knob, dB. */
const NOISE_LEAST_DB = 1;

/**
 * As `driftOf`, of one figure: two standard deviations of a difference between two of one day (Bland & Altman 1986), no
 * less than a decibel.
 * @returns null where it was recorded on one day only
 */
export function noiseDrift(noises: readonly ResistorNoise[]): NoiseDrift | null {
  const days = [...new Set(noises.map(({ on }) => on))].sort();
  const of = (day: string) => noises.filter(({ on }) => on === day).map((one) => one.atInputDb);
  const mean = (all: readonly number[]) => all.reduce((sum, db) => sum + db, 0) / all.length;
  const again = days.flatMap((day) => {
    const [once, ...more] = of(day);
    return more.map((db) => db - once!);
  });
  const spread = again.length === 0 ? 0 : Math.sqrt(mean(again.map((db) => db * db)));
  const repeatsDb = Math.max(2 * spread, NOISE_LEAST_DB);
  const [first, ...later] = days;
  if (first === undefined || later.length === 0) return null;
  const start = mean(of(first));
  return {
    first,
    days: later.map((on) => {
      const byDb = mean(of(on)) - start;
      return { on, byDb, moved: Math.abs(byDb) > repeatsDb };
    }),
    repeatsDb,
    repeats: again.length,
  };
}

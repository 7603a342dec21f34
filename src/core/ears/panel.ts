import { FROM_HZ, TO_HZ } from '@/core/spectrum/closest';
import { inDb } from './skill';
import { band } from './skills/band';

/** How loud a difference somebody was shown to hear around a frequency. */
export interface BandHeard {
  centreHz: number;
  /** dB; null where it was tried and not shown. */
  leastDb: number | null;
}

/** Level of a chain in each band, dB; null where nothing is known. */
type Levels = readonly (number | null)[];

/** Places that are told; of more, those where most were tried. */
const MOST_TOLD = 3;

/**
 * By how much every two chains differ in one band, dB, less their difference over the whole range: a level counts for
 * nothing. Pairs of which too little is known are left out.
 */
export function pairDifferences(
  levels: ReadonlyMap<string, Levels>,
  centresHz: readonly number[],
  atHz: number,
): { pair: [string, string]; db: number }[] {
  const chains = [...levels];
  const octaves = (hz: number) => Math.abs(Math.log2(hz / atHz));
  const near = centresHz.reduce((best, hz) => (octaves(hz) < octaves(best) ? hz : best));
  return chains.flatMap(([a, own], i) =>
    chains.slice(i + 1).flatMap(([b, other]): { pair: [string, string]; db: number }[] => {
      const gaps = centresHz.flatMap((hz, k) => {
        const [x, y] = [own[k] ?? null, other[k] ?? null];
        return x === null || y === null || hz < FROM_HZ || hz > TO_HZ ? [] : [{ hz, db: x - y }];
      });
      const there = gaps.find(({ hz }) => hz === near);
      if (!there) return [];
      const mean = gaps.reduce((sum, { db }) => sum + db, 0) / gaps.length;
      return [{ pair: [a, b], db: Math.abs(there.db - mean) }];
    }),
  );
}

const CENTRES = band.choices.centreHz!.words;
const hertz = (hz: number) => CENTRES[String(hz)] ?? `${hz} Hz`;
const was = (count: number) => (count === 1 ? 'was' : 'were');

/**
 * What the listeners of a sitting can hear at all, beside how far chains differ: one sentence or two for each place
 * where somebody trained or was tested, those first where most were.
 * @param listeners what each was shown to hear, band by band
 */
export function panelHears(
  levels: ReadonlyMap<string, Levels>,
  centresHz: readonly number[],
  listeners: readonly (readonly BandHeard[])[],
): string[] {
  const tried = Object.keys(CENTRES)
    .map(Number)
    .map((centreHz) => ({
      centreHz,
      // Of each the least; null where nothing was shown.
      least: listeners.flatMap((bands) => {
        const there = bands.filter((one) => one.centreHz === centreHz);
        const heard = there.flatMap(({ leastDb }) => leastDb ?? []);
        return there.length === 0 ? [] : [heard.length > 0 ? Math.min(...heard) : null];
      }),
    }))
    .filter(({ least }) => least.length > 0)
    .sort((x, y) => y.least.length - x.least.length);
  return tried.slice(0, MOST_TOLD).map(({ centreHz, least }) => {
    const differences = pairDifferences(levels, centresHz, centreHz).map(({ db }) => db);
    const heard = least.flatMap((db) => db ?? []);
    const most = heard.length > 0 ? Math.max(...heard) : null;
    const who = `Of ${least.length} of this panel who trained or were tested there, `;
    const shown =
      most === null
        ? `${who}none was shown to hear a change.`
        : `${who}${heard.length} ${was(heard.length)} shown to hear ${inDb(most)} or less.`;
    if (differences.length === 0) return `Around ${hertz(centreHz)}: ${shown.replace('Of', 'of')}`;
    if (differences.length === 1)
      return `Around ${hertz(centreHz)} the two differ by ${inDb(differences[0]!)}. ${shown}`;
    const range = `${inDb(Math.min(...differences))} to ${inDb(Math.max(...differences))}`;
    const over =
      most === null
        ? ''
        : `, ${differences.filter((db) => db >= most).length} of ${differences.length} pairs by ${inDb(most)} or more`;
    return `Around ${hertz(centreHz)} the chains differ by ${range}${over}. ${shown}`;
  });
}

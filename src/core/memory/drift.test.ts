import { Random } from '@/core/signal/random';
import { THIRD_OCTAVES } from '@/core/spectrum/bands';
import { driftOf, noiseDrift, type TestSound } from './drift';

const FLAT = THIRD_OCTAVES.map(() => -40);
const at = (on: string, thirdsDb: TestSound['thirdsDb'] = FLAT): TestSound => ({ on, thirdsDb });
const band = (hz: number) => THIRD_OCTAVES.findIndex(({ centerHz }) => centerHz === hz);
const moved = (hz: number, db: number, by = 0) =>
  FLAT.map((level, i) => level + by + (i === band(hz) ? db : 0));

describe('drift of a test sound', () => {
  it('is none on one day, however often it was played', () => {
    expect(driftOf([])).toBeNull();
    expect(driftOf([at('2026-03-01'), at('2026-03-01')])).toBeNull();
  });

  it('tells the band that moved, whatever the gain, against a limit that is assumed', () => {
    const drift = driftOf([at('2027-03-01', moved(4000, -3, 12)), at('2026-03-01')]);
    expect(drift).toMatchObject({ first: '2026-03-01', repeats: 0, repeatsDb: 1.5 });
    expect(drift?.days[0]?.on).toBe('2027-03-01');
    expect(drift?.days[0]?.most.centerHz).toBe(4000);
    expect(drift?.days[0]?.most.db).toBeCloseTo(-3, 10);
    expect(drift?.days[0]?.moved.map(({ centerHz }) => centerHz)).toEqual([4000]);
  });

  it('is measured by what comes back on one day', () => {
    // Every other band up and down by half a decibel: differences of 0.5, three times that is the limit.
    const again = FLAT.map((level, i) => level + (i % 2 === 0 ? 0.5 : -0.5));
    const sounds = [at('2026-03-01'), at('2026-03-01', again)];
    const drift = driftOf([...sounds, at('2027-03-01', moved(1000, 1.2))]);
    expect(drift?.repeats).toBe(1);
    expect(drift?.repeatsDb).toBeCloseTo(1.5, 10);
    expect(drift?.days[0]?.moved).toEqual([]);
    const exact = driftOf([at('2026-03-01'), at('2026-03-01'), at('2027-03-01', moved(1000, 1.2))]);
    expect(exact?.repeatsDb).toBe(0.5);
    expect(exact?.days[0]?.moved.map(({ centerHz }) => centerHz)).toEqual([1000]);
  });

  it('says nothing of bands without sound, nor of spectra with too little in common', () => {
    const half = FLAT.map((level, i) => (i < 11 ? level : null));
    expect(driftOf([at('2026-03-01'), at('2027-03-01', half)])).toBeNull();
    const low = FLAT.map((level, i) => (i < band(80) ? null : level));
    const drift = driftOf([at('2026-03-01', low), at('2027-03-01', moved(50, 9))]);
    expect(drift?.days[0]?.most.db).toBeCloseTo(0, 10);
  });

  it('of a chain that stands still tells a moved band on about one day of twelve', () => {
    const random = new Random(5);
    const played = (on: string) =>
      at(
        on,
        FLAT.map((level) => level + 0.5 * random.normal()),
      );
    let alarms = 0;
    for (let chain = 0; chain < 600; chain++) {
      const once = ['2026', '2027', '2028', '2029'].flatMap((year) => [played(year), played(year)]);
      // Two played each day: what is compared are means of two, so alarms are rarer than of single ones.
      const last = driftOf([...once.slice(0, 6), played('2030')])?.days.at(-1);
      if ((last?.moved.length ?? 0) > 0) alarms++;
    }
    // Thirty bands beyond 3 (against 3·√3/2 of a mean of two and one): at most 30 · 0.0027 of days, at least a few.
    expect(alarms / 600).toBeLessThan(0.081 + 3 * Math.sqrt((0.081 * 0.919) / 600));
    expect(alarms).toBeGreaterThan(0);
  });
});

describe('drift of noise', () => {
  const noise = (on: string, atInputDb: number) => ({ on, atInputDb });

  it('is told from the second day on, against at least a decibel', () => {
    expect(noiseDrift([noise('2026-03-01', -120), noise('2026-03-01', -119)])).toBeNull();
    const drift = noiseDrift([
      noise('2028-03-01', -117),
      noise('2026-03-01', -120),
      noise('2027-03-01', -119.2),
    ]);
    expect(drift).toMatchObject({ first: '2026-03-01', repeats: 0, repeatsDb: 1 });
    expect(drift?.days.map(({ on, moved: beyond }) => [on, beyond])).toEqual([
      ['2027-03-01', false],
      ['2028-03-01', true],
    ]);
    expect(drift?.days[1]?.byDb).toBeCloseTo(3, 10);
  });

  it('is held against what it repeats to, and means of a day', () => {
    // 2 apart on one day: twice that is the limit; the mean of the first day is -119.
    const drift = noiseDrift([
      noise('2026-03-01', -120),
      noise('2026-03-01', -118),
      noise('2027-03-01', -115.5),
      noise('2028-03-01', -114),
    ]);
    expect(drift?.repeatsDb).toBeCloseTo(4, 10);
    expect(drift?.days.map(({ byDb, moved: beyond }) => [byDb, beyond])).toEqual([
      [3.5, false],
      [5, true],
    ]);
  });
});

import { closestPair, spectralDistanceDb } from './closest';

const bands = (shape: (hz: number) => number | null) =>
  [63, 125, 250, 500, 1000, 2000, 4000, 8000, 16000].map((centerHz) => ({
    centerHz,
    differenceDb: shape(centerHz),
    coherence: 1,
  }));

describe('distance of spectra', () => {
  it('leaves level out', () => {
    expect(
      spectralDistanceDb(
        bands(() => 0),
        bands(() => 4),
      ),
    ).toBeCloseTo(0, 12);
  });

  it('is the standard deviation over the bands between 80 Hz and 12.5 kHz', () => {
    // Seven bands count; three of them are 2 dB up: variance 4 · 3/7 · 4/7.
    const lifted = bands((hz) => (hz >= 2000 || hz < 80 ? 2 : 0));
    expect(
      spectralDistanceDb(
        bands(() => 0),
        lifted,
      ),
    ).toBeCloseTo(Math.sqrt((4 * 12) / 49), 12);
  });

  it('is unknown where too little is known', () => {
    expect(
      spectralDistanceDb(
        bands((hz) => (hz < 300 ? 0 : null)),
        bands(() => 0),
      ),
    ).toBeNull();
  });
});

it('finds the two clips that are hardest to tell apart', () => {
  const tilt = (db: number) => bands((hz) => db * Math.log10(hz / 1000));
  const found = closestPair([tilt(0), tilt(5), null, tilt(4.6), tilt(-3)]);
  expect(found?.pair).toEqual([1, 3]);
  expect(closestPair([tilt(0)])).toBeNull();
  expect(closestPair([null, null])).toBeNull();
});

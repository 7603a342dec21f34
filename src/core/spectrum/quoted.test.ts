import { betweenTwo, type ComparedBand, quotedBand } from './quoted';

const band = (centerHz: number, differenceDb: number, more: Partial<ComparedBand> = {}) => ({
  centerHz,
  differenceDb,
  coherence: 0.95,
  levelDb: -40,
  baseDb: -40,
  noiseDb: null,
  baseNoiseDb: null,
  ...more,
});

describe('the band that a heading quotes', () => {
  it('is the largest difference, up or down, within the range where colour lies', () => {
    const bands = [
      band(50, 12),
      band(80, 1),
      band(1000, -4),
      band(12500, 3),
      band(16000, -20),
      band(20000, 30),
    ];
    expect(quotedBand(bands)).toEqual({ centerHz: 1000, differenceDb: -4 });
  });

  it('is none that is not believed, or near the noise of either', () => {
    const bands = [
      band(250, 9, { coherence: 0.79 }),
      band(500, 8, { noiseDb: -49.9 }),
      band(1000, 7, { baseNoiseDb: -45 }),
      band(2000, 6, { baseDb: null }),
      band(4000, 2, { noiseDb: -50, baseNoiseDb: -50 }),
    ];
    expect(quotedBand(bands)).toEqual({ centerHz: 4000, differenceDb: 2 });
    expect(quotedBand(bands.slice(0, 4))).toBeNull();
    expect(quotedBand([])).toBeNull();
  });
});

describe('two clips that were set against one reference', () => {
  const one = [
    { centerHz: 100, differenceDb: 3, coherence: 0.9 },
    { centerHz: 200, differenceDb: 1, coherence: 0.7 },
    { centerHz: 400, differenceDb: 2, coherence: 1 },
  ];

  it('differ by what both differ from it, believed as far as the worse of them', () => {
    const base = [
      { centerHz: 100, differenceDb: -2, coherence: 0.95 },
      { centerHz: 200, differenceDb: null, coherence: 0 },
    ];
    expect(betweenTwo(one, base)).toEqual([
      { centerHz: 100, differenceDb: 5, coherence: 0.9 },
      { centerHz: 200, differenceDb: null, coherence: 0 },
      { centerHz: 400, differenceDb: null, coherence: 0 },
    ]);
  });

  it('differ by their own when one of them is the reference', () => {
    expect(betweenTwo(one, null)).toEqual(one);
  });
});

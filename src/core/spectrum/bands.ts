/** One band of a fractional-octave bank (IEC 61260-1, base ten). */
export interface Band {
  /** As it is written on scales. */
  centerHz: number;
  fromHz: number;
  toHz: number;
}

/** Nominal centres of thirds of an octave, 25 Hz to 20 kHz (IEC 61260-1 annex E). */
const THIRDS = [
  25, 31.5, 40, 50, 63, 80, 100, 125, 160, 200, 250, 315, 400, 500, 630, 800, 1000, 1250, 1600,
  2000, 2500, 3150, 4000, 5000, 6300, 8000, 10000, 12500, 16000, 20000,
] as const;
/** 25 Hz is 10^(14/10) Hz. */
const FIRST_THIRD = 14;

/** Thirds from 25 Hz to 20 kHz; the exact centre is 10^(k/10) Hz, the edges 10^±0.05 of it. */
export const THIRD_OCTAVES: readonly Band[] = THIRDS.map((centerHz, i) => {
  const exact = (FIRST_THIRD + i) / 10;
  return { centerHz, fromHz: 10 ** (exact - 0.05), toHz: 10 ** (exact + 0.05) };
});

/** Sixths from 25 Hz to 20 kHz: each third in two halves of the log scale. */
export const SIXTH_OCTAVES: readonly Band[] = THIRD_OCTAVES.flatMap(({ fromHz, toHz }) => {
  const middle = Math.sqrt(fromHz * toHz);
  return [
    { fromHz, toHz: middle },
    { fromHz: middle, toHz },
  ].map((half) => {
    const center = Math.sqrt(half.fromHz * half.toHz);
    return { centerHz: Number(center.toPrecision(3)), ...half };
  });
});

import { type Biquad, responseDb } from '@/core/signal/biquad';

// Analogue parameters behind the 48 kHz table of ITU-R BS.1770; see docs/methods.md.
const SHELF = {
  f0: 1681.974450955533,
  gainDb: 3.999843853973347,
  q: 0.7071752369554196,
  bandExponent: 0.4996667741545416,
};
const HIGHPASS = { f0: 38.13547087602444, q: 0.5003270373238773 };

function highpassA0(sampleRateHz: number): number {
  const k = Math.tan((Math.PI * HIGHPASS.f0) / sampleRateHz);
  return 1 + k / HIGHPASS.q + k * k;
}

function bilinearShelf(sampleRateHz: number): Biquad {
  const k = Math.tan((Math.PI * SHELF.f0) / sampleRateHz);
  const vh = 10 ** (SHELF.gainDb / 20);
  const vb = vh ** SHELF.bandExponent;
  const a0 = 1 + k / SHELF.q + k * k;
  return {
    b0: (vh + (vb * k) / SHELF.q + k * k) / a0,
    b1: (2 * (k * k - vh)) / a0,
    b2: (vh - (vb * k) / SHELF.q + k * k) / a0,
    a1: (2 * (k * k - 1)) / a0,
    a2: (1 - k / SHELF.q + k * k) / a0,
  };
}

/**
 * Low rates bend the bilinear shelf by up to 0.2 dB near 1 kHz, so there the poles are placed by
 * exp(s/fs) and the numerator is chosen to meet the 48 kHz response at zero, at the shelf's middle
 * and at half the rate (after M. Vicanek, "Matched second order digital filters", 2016).
 */
function matchedShelf(sampleRateHz: number): Biquad {
  const w0 = (2 * Math.PI * SHELF.f0) / sampleRateHz;
  const decay = Math.exp(-w0 / (2 * SHELF.q));
  const a1 = -2 * decay * Math.cos(w0 * Math.sqrt(1 - 1 / (4 * SHELF.q * SHELF.q)));
  const a2 = decay * decay;
  const table = [bilinearShelf(48000)];
  const wantedSquare = (frequencyHz: number) => {
    const poles = { b0: 1, b1: a1, b2: a2, a1: 0, a2: 0 };
    const db =
      responseDb(table, frequencyHz, 48000) + responseDb([poles], frequencyHz, sampleRateHz);
    return 10 ** (db / 10);
  };
  const atZero = wantedSquare(0);
  const atHalf = wantedSquare(sampleRateHz / 2);
  const upper = Math.sin(w0 / 2) ** 2;
  const between =
    (wantedSquare(SHELF.f0) - (1 - upper) * atZero - upper * atHalf) / (4 * upper * (1 - upper));
  const half = (Math.sqrt(atZero) + Math.sqrt(atHalf)) / 2;
  const b0 = (half + Math.sqrt(half * half + between)) / 2;
  return { b0, b1: (Math.sqrt(atZero) - Math.sqrt(atHalf)) / 2, b2: -between / (4 * b0), a1, a2 };
}

/**
 * The two K-weighting sections of ITU-R BS.1770 for any sample rate: the analogue shelf and
 * high-pass transformed for the rate. The high-pass numerator is scaled so that its gain stays that
 * of the 48 kHz table. At 48 kHz the table itself comes out.
 */
export function kWeighting(sampleRateHz: number): [Biquad, Biquad] {
  const shelf = sampleRateHz < 44100 ? matchedShelf(sampleRateHz) : bilinearShelf(sampleRateHz);
  const kh = Math.tan((Math.PI * HIGHPASS.f0) / sampleRateHz);
  const h0 = highpassA0(sampleRateHz);
  const gain = highpassA0(48000) / h0;
  const highpass: Biquad = {
    b0: gain,
    b1: -2 * gain,
    b2: gain,
    a1: (2 * (kh * kh - 1)) / h0,
    a2: (1 - kh / HIGHPASS.q + kh * kh) / h0,
  };
  return [shelf, highpass];
}

const LFE = 0x8;
const SIDES = 0x200 | 0x400;
const BACKS = 0x10 | 0x20;

/**
 * Weight of each channel (BS.1770): 1 in front, 1.41 for surrounds, 0 for low-frequency effects.
 * By speaker mask when the file has one, else by channel count (5: L R C Ls Rs, 6: with LFE fourth).
 */
export function channelWeights(channels: number, channelMask: number): number[] {
  const positions: number[] = [];
  for (let bit = 0; bit < 18; bit++) if (channelMask & (1 << bit)) positions.push(1 << bit);
  if (positions.length === channels) {
    const surround = positions.some((p) => p & SIDES) ? SIDES : BACKS;
    return positions.map((p) => (p === LFE ? 0 : p & surround ? 1.41 : 1));
  }
  if (channels === 4) return [1, 1, 1.41, 1.41];
  if (channels === 5) return [1, 1, 1, 1.41, 1.41];
  if (channels === 6) return [1, 1, 1, 0, 1.41, 1.41];
  return new Array<number>(channels).fill(1);
}

import { soundOf } from './sound';
import { xorshiftNoise } from '@/core/test/signals';
import { combNotchesHz, stereoImage } from './stereo-image';

const a = xorshiftNoise(1, 0.5, 48000);
const b = xorshiftNoise(2, 0.5, 48000);

it('mono is fully correlated and has no width', () => {
  expect(stereoImage(soundOf([a, a]))).toEqual({
    correlation: expect.closeTo(1, 9) as number,
    widthDb: null,
    centreOffsetDb: expect.closeTo(0, 9) as number,
  });
});

it('unrelated sides are as wide as the middle; one side 6 dB up leans by 6 dB', () => {
  const image = stereoImage(soundOf([a, b.map((x) => 1.9953 * x)]));
  expect(image?.correlation).toBeCloseTo(0, 1);
  expect(image?.widthDb).toBeCloseTo(0, 0);
  expect(image?.centreOffsetDb).toBeCloseTo(6, 1);
});

it('has nothing to say of mono or of a silent side', () => {
  expect(stereoImage(soundOf([a]))).toBeNull();
  expect(stereoImage(soundOf([a, new Float64Array(a.length)]))).toBeNull();
});

it('a millisecond late takes out 500 Hz and every kilohertz above; inverted, the whole kilohertz', () => {
  expect(combNotchesHz(0.001, 3)).toEqual([500, 1500, 2500]);
  expect(combNotchesHz(0.001, 2, true)).toEqual([1000, 2000]);
});

import { disagreements, type MethodLevels } from './disagreement';

const clip = (
  name: string,
  beforeLufs: number,
  beforeRmsDbfs: number,
  gainDb: number,
): MethodLevels => ({
  name,
  beforeLufs,
  beforeRmsDbfs,
  gainDb,
  bands: [
    { centerHz: 100, differenceDb: 4 },
    { centerHz: 3150, differenceDb: -2 },
  ],
});

it('says by how much another method differs, and why', () => {
  // Both at -20 LUFS after their gain; -21 and -19.5 dB by RMS.
  const set = [clip('Ref', -26, -27, 6), clip('Dark', -30, -29.5, 10)];
  expect(disagreements('loudness', set, 0)).toEqual([
    {
      name: 'Dark',
      by: 'rms',
      differenceDb: 1.5,
      reason:
        'It has more low end for its presence (+4.0 dB below 200 Hz, −2.0 dB from 2 to 6 kHz, against the reference); RMS counts that in full, loudness does not.',
    },
  ]);
  // Matched by RMS instead, the dark one is 1.5 LU short.
  const only = disagreements('rms', [set[0]!, { ...set[1]!, gainDb: 8.5 }], 0)[0]!;
  expect(only).toMatchObject({ by: 'loudness', differenceDb: -1.5 });
  expect(only.reason).toContain('more low end');
});

it('is silent below 0.3 dB, and knows what a tone leaves', () => {
  expect(disagreements('loudness', [clip('A', -26, -27, 6), clip('B', -26, -26.8, 6)], 0)).toEqual(
    [],
  );
  const found = disagreements('tone', [clip('A', -26, -27, 6), clip('B', -24, -25, 6)], 0);
  expect(found.map(({ by }) => by)).toEqual(['loudness', 'rms']);
  expect(found[0]!.reason).toContain('at its own pitch only');
});

import { proposedChains } from './chain-names';

const told = (
  files: readonly string[],
  sources: readonly string[] = ['Contralto'],
  chains: readonly string[] = [],
) => proposedChains(files, sources, chains).map(({ name, files: of }) => [name, of]);

it('leaves take, step with its detail, and source away', () => {
  expect(
    told([
      'Kern40_Linie2_take1.wav',
      'Kern40_Linie2_take2.wav',
      'Ostra R1_Linie2_Contralto_take1.wav',
      'ostra r1_Linie2_off-axis_90.wav',
      'Ostra R1_Linie2_room tone.wav',
      'Kern40_Linie2_distance_30 cm_t2.wav',
      'Kern40_Linie2_treatment_untreated.wav',
    ]),
  ).toEqual([
    ['Kern40', [0, 1, 5, 6]],
    ['Ostra R1', [2, 3, 4]],
  ]);
});

it('keeps what tells chains apart, and only that', () => {
  expect(
    told([
      '2026-05-04 - Lamplight - Kern 40 - Linie 2.wav',
      '2026-05-04 - Lamplight - Kern 40 - Tarn 1.wav',
    ]),
  ).toEqual([
    ['Linie 2', [0]],
    ['Tarn 1', [1]],
  ]);
  expect(told(['Kern 40_Linie 2.wav', 'Halde T2_Tarn 1.wav'])).toEqual([
    ['Kern 40 › Linie 2', [0]],
    ['Halde T2 › Tarn 1', [1]],
  ]);
});

it('takes one name as it is, where there is nothing to tell it from', () => {
  expect(told(['Kern 40 take 3.flac'])).toEqual([['Kern 40', [0]]]);
  expect(told(['Kern_1.wav', 'Kern_2.wav'])).toEqual([['Kern', [0, 1]]]);
});

it('gives files to chains that are there already', () => {
  const chains = ['Kern 40', 'Halde T2'];
  expect(proposedChains(['halde_t2_take1.wav', 'Ostra.wav'], ['Voice'], chains)).toEqual([
    { chain: 1, name: 'Halde T2', files: [0] },
    { chain: null, name: 'Ostra', files: [1] },
  ]);
});

it('says nothing of names that say nothing, and stays within what a chain’s name holds', () => {
  expect(told(['take_1.wav', 'take_2.wav', '03.wav', 'Contralto_take 4.wav'])).toEqual([]);
  expect(told([])).toEqual([]);
  const [[name]] = told([`${'x'.repeat(300)}.wav`]) as [[string, number[]]];
  expect(name.length).toBe(80);
});

it('reads hostile names in time that grows with their length alone', () => {
  const long = `${'take'.repeat(20_000)}${'_'.repeat(20_000)}${' - '.repeat(20_000)}.wav`;
  expect(told([long, `${long}b.wav`]).length).toBeLessThanOrEqual(2);
});

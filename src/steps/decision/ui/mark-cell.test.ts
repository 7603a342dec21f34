import { pastedMarks, readMark, writeMark } from './mark-cell';

it.each([
  ['4', { value: '4', remark: '' }],
  [' 2 the clip slips ', { value: '2', remark: 'the clip slips' }],
  ['Yes, with a screw', { value: 'yes', remark: 'with a screw' }],
  ['', { value: null, remark: '' }],
])('reads “%s”', (text, mark) => {
  expect(readMark(text)).toEqual(mark);
});

it.each(['6', '0', '4.5', 'good', '-1', `3 ${'x'.repeat(301)}`])('refuses “%s”', (text) => {
  expect(readMark(text)).toHaveProperty('fault');
});

it('writes what it reads', () => {
  expect(writeMark({ value: '2', remark: 'the clip slips' })).toBe('2 the clip slips');
  expect(writeMark({ value: null, remark: '' })).toBe('');
});

const TABLE = { rows: ['Kern 40', 'Tarn 1'], columns: ['build', 'service'] };
const paste = (cells: string[][], at = { row: 0, column: 0 }) => pastedMarks(cells, TABLE, at);

it('pastes from a cell on', () => {
  expect(paste([['3'], ['4 stiff']], { row: 0, column: 1 })).toEqual([
    { row: 0, column: 1, value: '3', remark: '' },
    { row: 1, column: 1, value: '4', remark: 'stiff' },
  ]);
});

it('puts a whole table where its names stand, in whatever order', () => {
  const cells = [
    ['', 'Service', 'Build'],
    ['tarn 1', '5', '2'],
    ['Kern 40', '1', ''],
  ];
  expect(paste(cells)).toEqual([
    { row: 1, column: 1, value: '5', remark: '' },
    { row: 1, column: 0, value: '2', remark: '' },
    { row: 0, column: 1, value: '1', remark: '' },
    { row: 0, column: 0, value: null, remark: '' },
  ]);
});

it.each([
  [
    [
      ['', 'build', 'weight'],
      ['Kern 40', '3', '4'],
    ],
    'There is no criterion “weight”; nothing was pasted.',
  ],
  [
    [
      ['', 'build'],
      ['Kern 41', '3'],
    ],
    'There is no “Kern 41” here; nothing was pasted.',
  ],
  [[['3'], ['3'], ['3']], 'There are more rows than here; nothing was pasted.'],
  [[['3', '3', '3']], 'There are more columns than criteria; nothing was pasted.'],
  [
    [
      ['', 'build'],
      ['Kern 40', '9'],
    ],
    'Kern 40, build: “9” is no mark: write 1 to 5, yes or no.',
  ],
])('refuses all of what does not fit: %j', (cells, fault) => {
  expect(paste(cells)).toEqual({ fault });
});

import fc from 'fast-check';
import Papa from 'papaparse';
import { FORMULA, unmarked } from './formulae';

const written = (cell: string) =>
  Papa.parse<string[]>(Papa.unparse([[cell, 'x']], { escapeFormulae: FORMULA }), { delimiter: ',' })
    .data[0]![0];

it('marks whatever a spreadsheet would work out, and no plain number', () => {
  for (const cell of ['=1+1', '+1+1', '-2+3', '@SUM(A1)', '-cmd|x', '\t=1', '＝1', '+', '-1-1']) {
    expect(written(cell)).toBe(`'${cell}`);
  }
  for (const cell of ['-2', '+3.5', '-0,25', '12', 'a=b', '', "'quoted'", '1+1']) {
    expect(written(cell)).toBe(cell);
  }
});

it('gives back what was written', () => {
  fc.assert(
    fc.property(fc.string({ minLength: 1 }), (cell) => {
      const clean = cell.replace(/[\r\n]/g, '');
      fc.pre(!(clean.startsWith("'") && FORMULA.test(clean.slice(1))));
      expect(unmarked(written(clean)!)).toBe(clean);
    }),
  );
});

import { gatherPackAnswers, openPackAnswers } from './pack-answers';
import { parseResultsFile } from './results-file';

const WORDS = new Map([
  ['Kiln', 'Halde T2'],
  ['Brook', 'Kern 40'],
  ['Thatch', 'Ostra R1'],
]);
const bytes = (text: string) => new TextEncoder().encode(text);
const opened = (text: string) => parseResultsFile(openPackAnswers(bytes(text), WORDS));

it('puts chains in place of code words, and keeps which was heard first', () => {
  const { observations } = opened(
    'listener,trial,first,second,choice,remark\r\nAda,1,Kiln,Brook,Brook,airy\r\nAda,2,thatch,KILN,tie,\r\nBen,1,Brook,Kiln,Brook,\r\n',
  );
  expect(
    observations.map((one) =>
      one.kind === 'pair' ? [one.listener, one.chain, one.chainB, one.first, one.response] : [],
    ),
  ).toEqual([
    ['Ada', 'Halde T2', 'Kern 40', 'a', 'b'],
    ['Ada', 'Ostra R1', 'Halde T2', 'a', 'tie'],
    ['Ben', 'Kern 40', 'Halde T2', 'a', 'a'],
  ]);
});

it('counts rows as they stand in the sheet, skips empty ones and those without a choice', () => {
  const { observations, skipped, warnings } = opened(
    'listener,first,second,choice\nAda,Kiln,Brook,\n,,,\nAda,Kiln,Brook,Kiln\n',
  );
  expect(observations).toHaveLength(1);
  expect(skipped).toMatchObject({ missing: 1, blank: 1 });
  expect(warnings.map(({ code, rows }) => [code, rows])).toEqual([
    ['missing-answer', [2]],
    ['blank-row', [3]],
  ]);
});

it.each([
  ['Ada,Kiln,Moss,Kiln', 'row 2: no clip of this pack is called "Moss"'],
  ['Ada,Kiln,Brook,Thatch', 'row 2: the choice "Thatch" is none of the two words'],
  ['Ada,Kiln,,Kiln', 'row 2: second is empty'],
  [',Kiln,Brook,Kiln', 'row 2: listener is empty'],
  ['Ada,Kiln,Kiln,tie', 'row 2: chain and chain_b are the same'],
  ['Ada,Kiln,Brook', 'row 2: 3 fields, the header has 4'],
])('refuses %s', (row, message) => {
  expect(() => opened(`listener,first,second,choice\n${row}\n`)).toThrow(message);
});

it('refuses a sheet that is none', () => {
  expect(() => opened('who,what\nAda,Kiln\n')).toThrow('row 1: the column listener is missing');
});

describe('several sheets', () => {
  const HEADER = 'listener,trial,first,second,choice,remark\n';
  const gathered = (...sheets: string[]) =>
    gatherPackAnswers(
      sheets.map((rows, i) => ({ name: `${i + 1}.csv`, bytes: bytes(HEADER + rows) })),
      WORDS,
      (name) => name.toLowerCase(),
    );

  it('are read together, in their order', () => {
    const { answers, faults } = gathered(
      'Ada,1,Kiln,Brook,Brook,airy\nAda,2,Thatch,Kiln,tie,\n',
      'Ben,1,kiln,brook,KILN,\n',
    );
    expect(faults).toEqual([]);
    expect(
      answers.map(({ sheet, listener, first, second, response, remark }) => [
        sheet,
        listener,
        first,
        second,
        response,
        remark,
      ]),
    ).toEqual([
      ['1.csv', 'Ada', 'Halde T2', 'Kern 40', 'second', 'airy'],
      ['1.csv', 'Ada', 'Ostra R1', 'Halde T2', 'tie', ''],
      ['2.csv', 'Ben', 'Halde T2', 'Kern 40', 'first', ''],
    ]);
  });

  it('count a sheet that came twice once, and rows without an answer not at all', () => {
    const sheet = 'Ada,1,Kiln,Brook,Brook,\nAda,2,Kiln,Thatch,,\n,,,,,\n';
    const { answers, skipped, faults } = gathered(sheet, sheet.replaceAll('Ada', 'ADA'));
    expect(answers).toHaveLength(1);
    expect(skipped).toEqual({ blank: 2, missing: 2, duplicate: 1 });
    expect(faults).toEqual([]);
  });

  it('tell every fault at once, each with its sheet and row', () => {
    const { answers, faults } = gathered(
      'Ada,1,Kiln,Moss,Kiln,\nAda,2,Kiln,Kiln,tie,\nAda,3,Kiln,Brook,Kiln,\n',
      'Ada,3,Kiln,Brook,Brook,\nBen,1,Kiln,Brook\n',
    );
    expect(answers).toHaveLength(1);
    expect(faults).toEqual([
      { sheet: '1.csv', message: 'row 2: no clip of this pack is called "Moss"' },
      { sheet: '1.csv', message: 'row 3: first and second are the same clip' },
      { sheet: '2.csv', message: 'row 2: contradicts an earlier row of this trial' },
      { sheet: '2.csv', message: 'row 3: 4 fields, the header has 6' },
    ]);
  });

  it('say of a file that is no sheet what is missing, and read the others', () => {
    const sheets = [
      { name: 'photo.csv', bytes: bytes('who,what\n1,2\n') },
      { name: 'good.csv', bytes: bytes(`${HEADER}Ada,1,Kiln,Brook,Kiln,\n`) },
    ];
    const { answers, faults } = gatherPackAnswers(sheets, WORDS, (name) => name);
    expect(answers).toHaveLength(1);
    expect(faults).toEqual([
      { sheet: 'photo.csv', message: 'row 1: the column listener is missing' },
    ]);
  });
});

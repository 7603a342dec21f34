import type { QuestionForm } from './question-form';
import { HELD, type QuestionFold } from './question-held';

const EMPTY: QuestionForm = {
  title: 'Which chain?',
  question: '',
  sourceName: 'Contralto',
  passageName: 'verse',
  levelAt1MDb: '',
  crestDb: '',
  roomNoiseDba: '',
  budget: '',
  smallestSharePct: '',
  headphoneMinutes: '',
  contexts: [],
  mustHaves: '',
  capture: 'at once',
  temperatureC: '',
  furtherSources: [],
  criteria: [],
  nullHypothesis: '',
  favouriteChainId: '',
  toldApart: '',
  predictionRemark: '',
  overPeople: false,
  plosiveTest: false,
};

const said = (fold: QuestionFold, change: Partial<QuestionForm> = {}) =>
  HELD[fold]({ ...EMPTY, ...change }, (id) => `chain ${id}`);

it.each<[QuestionFold, Partial<QuestionForm>, string]>([
  ['loudness', { levelAt1MDb: '65,5', roomNoiseDba: '25' }, '65,5 dB at 1 m, room 25 dBA'],
  ['recording', { temperatureC: '19' }, 'at once, room at 19 °C'],
  [
    'further',
    {
      furtherSources: [{ sourceId: '', name: 'Cello', passages: '', capture: 'at once' }],
      contexts: ['raw', 'in the mix'],
    },
    'Cello, heard raw, in the mix',
  ],
  [
    'decides',
    {
      budget: '1800',
      mustHaves: 'a pad\n\nruns without phantom\n',
      criteria: [
        { name: 'build', weight: '3' },
        { name: 'noise', weight: '5' },
      ],
    },
    'budget 1800 €, 2 must-haves, 2 criteria',
  ],
  ['decides', { criteria: [{ name: 'build', weight: '3' }] }, '1 criterion'],
  [
    'nothing',
    { nullHypothesis: 'Nobody hears the preamp. ', smallestSharePct: '60' },
    'Nobody hears the preamp, 60 of 100 would matter',
  ],
  ['prediction', { favouriteChainId: 'a', toldApart: 'yes' }, 'chain a first, told apart: yes'],
  ['working', { overPeople: true }, 'a stand over people'],
])('%s says what it holds', (fold, change, sentence) => {
  expect(said(fold, change)).toBe(sentence);
});

it('says of every fold that is empty that it is, and keeps long ones to a line', () => {
  for (const fold of Object.keys(HELD) as QuestionFold[]) expect(said(fold)).not.toBe('');
  expect(said('prediction')).toBe('No guess yet.');
  const long = said('nothing', { nullHypothesis: 'word '.repeat(60) });
  expect(long.length).toBeLessThanOrEqual(90);
  expect(long).toMatch(/word…$/);
});

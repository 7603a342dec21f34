import { brief, type Comparison } from './schema';
import { briefOf, formOf, questionForm } from './ui/question-form';

const comparison: Comparison = {
  id: '7f4d1a54-2c1c-4f43-9f3c-0f1b0a8a9d11',
  title: 'Contralto, which chain?',
  question: 'Which one?',
  sourceName: 'Contralto',
  passageName: 'quiet verse',
  version: 3,
  simulated: false,
  brief: brief.parse({
    levelAt1MDb: 74.5,
    budgetCents: 134_050,
    mustHaves: ['fits the case', 'no fan'],
    criteria: [{ name: 'build', weight: 4 }],
    furtherSources: [{ name: 'Cello', passages: 'bridge' }],
    contexts: ['in the mix'],
    prediction: { favouriteChainId: null, toldApart: 'hardly', remark: 'small' },
    headphoneMinutes: 40,
    overPeople: true,
  }),
};

it('shows a question and reads it back unchanged', () => {
  const form = formOf(comparison);
  expect(form).toMatchObject({
    levelAt1MDb: '74.5',
    crestDb: '',
    budget: '1340.5',
    mustHaves: 'fits the case\nno fan',
    headphoneMinutes: '40',
    toldApart: 'hardly',
  });
  expect(questionForm.safeParse(form).success).toBe(true);
  const read = briefOf(form, comparison.brief);
  expect(read.success && read.data).toEqual(comparison.brief);
});

it('reads what people type: commas, blank lines, lines without a name', () => {
  const read = briefOf(
    {
      ...formOf(comparison),
      levelAt1MDb: '81,5',
      budget: '1.200,50',
      headphoneMinutes: '',
      mustHaves: '\n  no fan  \n\n',
      criteria: [
        { name: '  ', weight: '3' },
        { name: 'service', weight: '5' },
      ],
      toldApart: '',
    },
    comparison.brief,
  );
  expect(read.success && read.data).toMatchObject({
    levelAt1MDb: 81.5,
    budgetCents: 120_050,
    headphoneMinutes: 0,
    mustHaves: ['no fan'],
    criteria: [{ name: 'service', weight: 5 }],
    prediction: { toldApart: null },
  });
});

it.each([
  [{ levelAt1MDb: 'loud' }, '“loud” is not a number. Or leave it open.'],
  [{ budget: '2.500' }, 'can mean 2500 or 2.5'],
  [{ title: ' ' }, 'Write a title.'],
])('tells at the field what cannot be read: %j', (change, message) => {
  const read = questionForm.safeParse({ ...formOf(comparison), ...change });
  expect(read.error?.issues[0].message).toContain(message);
});

it.each([
  [{ levelAt1MDb: '500' }, 'lies between 20 and 150'],
  [{ budget: '-4' }, 'cannot be negative'],
  [{ budget: '999999999999' }, 'too high to be true'],
])('tells what cannot be true: %j', (change, message) => {
  const read = briefOf({ ...formOf(comparison), ...change }, comparison.brief);
  expect(read.error?.issues[0].message).toContain(message);
});

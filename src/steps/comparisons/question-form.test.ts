import { brief, type Comparison, type Source } from './schema';
import { briefOf, draftsOf, formOf, questionForm } from './ui/question-form';

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
    contexts: ['in the mix'],
    prediction: { favouriteChainId: null, toldApart: 'hardly', remark: 'small' },
    headphoneMinutes: 40,
    overPeople: true,
  }),
};

const ID = '7f4d1a54-2c1c-4f43-9f3c-0f1b0a8a9d';
const sources: Source[] = [
  { id: `${ID}01`, name: 'Contralto', capture: 'at once', passages: '' },
  { id: `${ID}02`, name: 'Cello', capture: 'replayed', passages: 'bridge' },
];

it('shows a question and reads it back unchanged', () => {
  const form = formOf(comparison, sources);
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
  expect(draftsOf(form, sources[0]!).data).toEqual(sources);
});

it('keeps who a source is when it is named anew, and tells of two alike', () => {
  const form = formOf(comparison, sources);
  const added = { sourceId: '', name: 'Clarinet', passages: '', capture: 'at once' as const };
  const change = { sourceName: 'Alto', furtherSources: [...form.furtherSources, added] };
  const drafts = draftsOf({ ...form, ...change }, sources[0]!);
  expect(drafts.data?.map(({ id, name }) => [id, name])).toEqual([
    [`${ID}01`, 'Alto'],
    [`${ID}02`, 'Cello'],
    [null, 'Clarinet'],
  ]);
  const alike = draftsOf({ ...form, sourceName: 'CELLO' }, sources[0]!);
  expect(alike.error?.issues[0]?.message).toBe(
    'Two sources are called “Cello”; give one of them another name.',
  );
  const nameless = { ...form, furtherSources: [{ ...added, name: ' ' }] };
  expect(draftsOf(nameless, sources[0]!).error?.issues[0]?.message).toBe('Write the source.');
});

it('reads what people type: commas, blank lines, lines without a name', () => {
  const read = briefOf(
    {
      ...formOf(comparison, sources),
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
  const read = questionForm.safeParse({ ...formOf(comparison, sources), ...change });
  expect(read.error?.issues[0]?.message).toContain(message);
});

it.each([
  [{ levelAt1MDb: '500' }, 'lies between 20 and 150'],
  [{ budget: '-4' }, 'cannot be negative'],
  [{ budget: '999999999999' }, 'too high to be true'],
])('tells what cannot be true: %j', (change, message) => {
  const read = briefOf({ ...formOf(comparison, sources), ...change }, comparison.brief);
  expect(read.error?.issues[0]?.message).toContain(message);
});

import { performancesOf, type PlayedTake } from './performances';

let made = 0;
const take = (chainId: string, what: Partial<PlayedTake> = {}): PlayedTake => ({
  id: `${chainId}${(made += 1)}`,
  chainId,
  given: null,
  soundsLike: null,
  span: null,
  inName: null,
  ...what,
});

/** "1 sound" for each take. */
const told = (takes: readonly PlayedTake[]) => {
  const found = performancesOf(takes);
  return takes.map(({ id }) => `${found.get(id)!.number} ${found.get(id)!.ground}`);
};

it('goes by the order within each chain where nothing else speaks', () => {
  expect(told([take('a'), take('b'), take('a'), take('b')])).toEqual([
    '1 order',
    '1 order',
    '2 order',
    '2 order',
  ]);
});

it('goes by the number in the name before the order', () => {
  // The first take of b is the second performance.
  const takes = [take('a', { inName: 1 }), take('a', { inName: 2 }), take('b', { inName: 2 })];
  expect(told(takes)).toEqual(['1 order', '2 name', '2 name']);
});

it('goes by overlapping times before names', () => {
  const takes = [
    take('a', { span: [0, 60], inName: 1 }),
    take('a', { span: [100, 160], inName: 2 }),
    take('b', { span: [101, 159], inName: 1 }),
  ];
  expect(told(takes)).toEqual(['1 order', '2 time', '2 time']);
});

it('does not take two performances that follow closely for one', () => {
  // The second begins while the first's recorder still runs out.
  const takes = [take('a', { span: [0, 60] }), take('b', { span: [55, 120] }), take('b')];
  expect(performancesOf(takes).get(takes[0]!.id)?.ground).toBe('order');
});

it('goes by unmistakable sound before times and names', () => {
  const first = take('a', { inName: 1, span: [0, 60] });
  const second = take('a', { inName: 2, span: [100, 160] });
  const other = take('b', { inName: 1, span: [0, 60], soundsLike: second.id });
  expect(told([first, second, other])).toEqual(['1 order', '2 sound', '2 sound']);
});

it('never puts two takes of one chain together', () => {
  const first = take('a', { span: [0, 60] });
  const takes = [first, take('a', { span: [10, 50] }), take('b', { soundsLike: first.id })];
  expect(told(takes)).toEqual(['1 sound', '2 order', '1 sound']);
});

it('takes what sounds like a take of its own chain for rendered from it, of one performance', () => {
  const first = take('a');
  const [b, again] = [take('b', { soundsLike: first.id }), take('b')];
  // Of the second chain by way of the reference's take, of the reference's own chain at once.
  const bounces = [take('b', { soundsLike: first.id }), take('a', { soundsLike: first.id })];
  const takes = [first, b, again, ...bounces];
  expect(told(takes)).toEqual(['1 sound', '1 sound', '2 order', '1 sound', '1 sound']);
  const found = performancesOf(takes);
  expect(takes.map(({ id }) => found.get(id)!.renderedFrom)).toEqual([
    null,
    null,
    null,
    b.id,
    first.id,
  ]);
});

it('takes nothing for rendered where the same is played again, or somebody parted them', () => {
  const first = take('a');
  const takes = [first, take('a', { soundsLike: first.id })];
  expect([...performancesOf(takes, true).values()].map(({ renderedFrom }) => renderedFrom)).toEqual(
    [null, null],
  );
  const given = [take('a')];
  given.push(take('a', { given: 2, soundsLike: given[0]!.id }));
  expect([...performancesOf(given).values()].map(({ renderedFrom }) => renderedFrom)).toEqual([
    null,
    null,
  ]);
});

it('keeps what somebody said, and counts the others around it', () => {
  const first = take('a');
  const takes = [first, take('b', { given: 1 }), take('a', { given: 3 }), take('b')];
  const said = told(takes);
  expect(said[1]).toBe('1 given');
  expect(said[2]).toBe('3 given');
  // By order the first of a goes with the first of b; the second of b with the second of a.
  expect(said[0]).toBe('1 order');
  expect(said[3]).toBe('3 order');
});

it('lets somebody part what sounds alike', () => {
  const first = take('a', { given: 1 });
  expect(told([first, take('b', { soundsLike: first.id, given: 2 })])).toEqual([
    '1 given',
    '2 given',
  ]);
});

it('says nothing of nothing', () => {
  expect(performancesOf([])).toEqual(new Map());
});

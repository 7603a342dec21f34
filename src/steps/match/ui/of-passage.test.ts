import type { ShownTake } from '@/steps/takes/schema';
import { isOfPassage, recordedSteps } from './of-passage';

const take = (change: Partial<ShownTake>): ShownTake =>
  ({
    chainId: 'a',
    sourceId: 's',
    state: 'ready',
    programme: 'performance',
    detail: '',
    ...change,
  }) as ShownTake;

it('a passage is cut from takes of its source and step alone', () => {
  const passage = { sourceId: 's', programme: 'off-axis', detail: '90' } as const;
  const fitting = take({ programme: 'off-axis', detail: '90' });
  expect(isOfPassage(fitting, passage)).toBe(true);
  for (const change of [
    { detail: '180' },
    { programme: 'tone' },
    { sourceId: 't' },
    { state: 'refused' },
  ] as Partial<ShownTake>[]) {
    expect(isOfPassage({ ...fitting, ...change }, passage)).toBe(false);
  }
});

it('a performance is one whatever its name says besides', () => {
  const music = { sourceId: 's', programme: 'performance', detail: '' } as const;
  expect(isOfPassage(take({ detail: 'second day' }), music)).toBe(true);
});

it('steps that two chains recorded can be heard against each other, the performance first', () => {
  const step = (chainId: string, programme: ShownTake['programme'], detail = '') =>
    take({ chainId, programme, detail });
  const takes = [
    step('a', 'distance', '120'),
    step('b', 'distance', '120'),
    step('a', 'distance', '30'),
    step('b', 'distance', '30'),
    // One chain twice, another source, the backing, a file that cannot be used: none makes a step.
    step('a', 'room'),
    step('a', 'room'),
    take({ chainId: 'b', programme: 'room', sourceId: 't' }),
    take({ chainId: 'b', programme: 'room', state: 'refused' }),
    step('a', 'backing'),
    step('b', 'backing'),
    take({ chainId: null, programme: 'knocks' }),
    step('b', 'knocks'),
    step('a', 'performance'),
    step('b', 'performance'),
    step('c', 'performance', 'second day'),
  ];
  expect(recordedSteps(takes, 's').map(({ label, chains }) => [label, chains])).toEqual([
    ['performance', 3],
    ['speech at a distance, 30 cm', 2],
    ['speech at a distance, 120 cm', 2],
  ]);
});

import { outcomeOf } from './outcome';

it.each([
  [{ claimed: true, leads: true, leaders: 1 }, 'won'],
  [{ claimed: true, leads: true, leaders: 2 }, 'may be the best'],
  [{ claimed: true, leads: false, leaders: 1 }, 'behind'],
  [{ claimed: true, leads: false, leaders: 0 }, 'nothing shown'],
  // Where nothing is claimed nobody leads, whatever the row says.
  [{ claimed: false, leads: true, leaders: 1 }, 'nothing shown'],
  [{ claimed: false, leads: false, leaders: 0 }, 'nothing shown'],
] as const)('%o came out as %s', (standing, outcome) => {
  expect(outcomeOf(standing)).toBe(outcome);
});

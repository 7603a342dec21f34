import { listed, samePerformance, type SetCheck } from './set-check';

export const notAtOnce: SetCheck = ({ takes }) => {
  const other = takes.filter(({ relation }) => relation && !samePerformance(relation));
  const names = [...new Set(other.map(({ chain }) => chain))];
  return names.length === 0
    ? null
    : `${listed(names)} ${names.length > 1 ? 'do' : 'does'} not hold the same performance as the reference, although the plan says all at once.`;
};

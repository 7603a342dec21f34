import { listed, samePerformance, type SetCheck } from './set-check';

export const notAtOnce: SetCheck = ({ takes }) => {
  const chainOf = (id: string) => takes.find((take) => take.id === id)?.chain;
  // The reference's own further takes are performances that others can be of.
  const other = takes.filter(
    ({ chain, referenceAlignment }) =>
      referenceAlignment &&
      !samePerformance(referenceAlignment) &&
      chainOf(referenceAlignment.referenceTakeId) !== chain,
  );
  const names = [...new Set(other.map(({ chain }) => chain))];
  return names.length === 0
    ? null
    : `${listed(names)} ${names.length > 1 ? 'do' : 'does'} not hold the same performance as the reference, although the plan says all at once.`;
};

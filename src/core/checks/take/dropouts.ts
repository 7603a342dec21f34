import { type Check, place } from './check';

export const dropouts: Check = ({ features }) => {
  if (!features || features.dropouts.count === 0) return null;
  const { count, longestS, firstS } = features.dropouts;
  return {
    check: 'dropouts',
    severity: 'problem',
    text: `The sound stands still ${count === 1 ? 'once' : `${count} times`}, first at ${place(firstS)}, for up to ${(1000 * longestS).toFixed(0)} ms: samples were lost. Record it again with a larger buffer.`,
  };
};

import type { Check } from './check';

const SHORTEST_S = 2;

export const tooShort: Check = ({ durationS }) =>
  durationS < SHORTEST_S
    ? {
        check: 'too short',
        severity: 'problem',
        text: `Only ${durationS.toFixed(1)} s long; a passage needs 5 to 25 s.`,
      }
    : null;

import { type Check, usual } from './check';

export const wrongChannels: Check = ({ channels }, set) => {
  const most = usual(set.map((other) => other.channels));
  return channels === most
    ? null
    : {
        check: 'wrong channels',
        severity: 'problem',
        text: `Has ${channels} channel${channels === 1 ? '' : 's'}, the others ${most}. Compare mono with mono and stereo with stereo.`,
      };
};

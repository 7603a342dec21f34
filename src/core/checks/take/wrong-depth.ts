import { type Check, usual } from './check';

export const wrongDepth: Check = ({ bitDepth }, set) => {
  const most = usual(set.map((other) => other.bitDepth));
  return bitDepth >= most
    ? null
    : {
        check: 'wrong depth',
        severity: 'caution',
        text: `Has ${bitDepth} bits, the others ${most}. Its own rounding may be heard in quiet places; export it again if you can.`,
      };
};

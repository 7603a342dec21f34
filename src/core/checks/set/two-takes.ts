import { listed, type SetCheck } from './set-check';

export const twoTakes: SetCheck = ({ takes, chains }) => {
  const few = chains.filter((name) => takes.filter(({ chain }) => chain === name).length === 1);
  return few.length === 0
    ? null
    : `${listed(few)} ${few.length > 1 ? 'have' : 'has'} one take only; recorded one after another, each chain needs two, so that chains can be told from performances.`;
};

import { wordsOf } from '@/core/text/words';

/**
 * Guesses which chain a file belongs to: the one most of whose words stand in the file name.
 * @returns its index, or null when none fits or two fit equally well
 */
export function guessChain(fileName: string, chainNames: readonly string[]): number | null {
  const inFile = wordsOf(fileName.replace(/\.[^.]+$/, ''));
  const joined = inFile.join('');
  const scores = chainNames.map((name) => {
    const inChain = wordsOf(name);
    const hits = inChain.filter(
      (word) => inFile.includes(word) || (word.length > 2 && joined.includes(word)),
    );
    const whole = inChain.length > 0 && joined.includes(inChain.join('')) ? 0.5 : 0;
    return inChain.length === 0 ? 0 : hits.length / inChain.length + whole;
  });
  const best = Math.max(0, ...scores);
  if (best < 0.5) return null;
  const winners = scores.filter((score) => score === best);
  return winners.length === 1 ? scores.indexOf(best) : null;
}

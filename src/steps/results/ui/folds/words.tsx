import Typography from '@mui/material/Typography';
import { ALPHA } from '@/core/statistics/words';
import type { WordCounts } from '@/core/statistics/attributes';
import { Method } from '../sections/cells';
import type { Fold, FoldProps } from './fold';

const MOST = 4;

function wordsOf({ parts }: FoldProps): { words: WordCounts[]; claimed: boolean } {
  const part = parts.find(({ analysis }) => analysis.results.attributes.length > 0);
  return { words: part?.analysis.results.attributes ?? [], claimed: part?.claimed ?? false };
}

function Words(props: FoldProps) {
  const { words, claimed } = wordsOf(props);
  const chains = props.result.chains.filter((chain) => words.some(({ counts }) => chain in counts));
  return (
    <>
      {chains.map((chain) => {
        const most = words
          .filter(({ counts }) => (counts[chain] ?? 0) > 0)
          .sort((x, y) => (y.counts[chain] ?? 0) - (x.counts[chain] ?? 0))
          .slice(0, MOST);
        return (
          <Typography key={chain} sx={{ mt: 0.5 }}>
            <b>{chain}</b>:{' '}
            {most.length === 0
              ? 'no word'
              : most.map(({ word, counts, pHolm }, i) => {
                  const differs = claimed && pHolm !== null && pHolm < ALPHA;
                  return (
                    <span key={word}>
                      {i > 0 && ', '}
                      {differs ? <b>{word}</b> : word} {counts[chain]}
                    </span>
                  );
                })}
          </Typography>
        );
      })}
      <Method>
        How often each chain’s commonest words were ticked, of {words[0]?.listeners ?? 0} listeners
        who described every chain. In bold: words that differ between the chains (Cochran, Holm);
        the others may be chance.
      </Method>
    </>
  );
}

export const words: Fold = {
  id: 'words',
  title: (props) => (wordsOf(props).words.length > 0 ? 'Words' : null),
  View: Words,
};

'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { ALPHA, list } from '@/core/statistics/words';
import type { BandRange } from '@/core/spectrum/word-bands';
import { hertz, signed } from '@/ui/format';
import { token } from '@/ui/tokens';
import type { WordCounts } from '@/core/statistics/attributes';
import { Method } from '../sections/cells';
import type { Fold, FoldProps } from './fold';
import { Remarks } from './Remarks';

const SPECTRUM_PX = 92;

const OwnSpectrumChart = dynamic(() => import('../OwnSpectrumChart'), {
  ssr: false,
  loading: () => <Box sx={{ height: SPECTRUM_PX }} />,
});

const MOST = 4;
/** A smaller scale would blow up what nobody hears. */
const LEAST_REACH_DB = 6;

function wordsOf({ parts }: FoldProps): { words: WordCounts[]; claimed: boolean } {
  const part = parts.find(({ analysis }) => analysis.results.attributes.length > 0);
  return { words: part?.analysis.results.attributes ?? [], claimed: part?.claimed ?? false };
}

/** "−4.1 dB, 5 kHz to 10 kHz" */
const rangeText = ({ fromHz, toHz, differenceDb }: BandRange) =>
  `${signed(differenceDb, 1, 'dB')}, ${hertz(fromHz)}${toHz > fromHz ? ` to ${hertz(toHz)}` : ''}`;

/** Words beside what was measured. */
function Measured({ across: { words } }: FoldProps) {
  const told = words.filter(({ ranges }) => ranges.length > 0);
  if (told.length === 0) return null;
  return (
    <>
      <Typography component="h3" variant="h3" sx={{ mt: 2 }}>
        Beside what was measured
      </Typography>
      {told.map(({ word, chains, ranges }) => (
        <Typography key={word} sx={{ mt: 0.5, maxWidth: '76ch' }}>
          “{word}”, most for {list(chains)}: against the others {ranges.map(rangeText).join('; ')}.
        </Typography>
      ))}
      <Method>
        Thirds of an octave of the level-matched clips, 80 Hz to 12.5 kHz, the mean of the chains
        that a word was ticked for more often than for the average chain less the mean of the
        others, where that is over 1.5 dB. Described, not tested: a word may have come of something
        else.
      </Method>
    </>
  );
}

/** The widest step of a chain's own spectrum, in words. */
function widest(ranges: readonly BandRange[]): string {
  const [most] = [...ranges].sort((x, y) => Math.abs(y.differenceDb) - Math.abs(x.differenceDb));
  return most ? rangeText(most) : 'within 1.5 dB of the others';
}

/** Words that were ticked, chain by chain. */
function Ticked(props: FoldProps) {
  const { words, claimed } = wordsOf(props);
  const { spectra } = props.across;
  const chains = props.result.chains.filter((chain) => words.some(({ counts }) => chain in counts));
  const steps = spectra.flatMap(({ differenceDb }) => differenceDb.map((db) => Math.abs(db ?? 0)));
  const reachDb = Math.max(LEAST_REACH_DB, Math.ceil(Math.max(0, ...steps) / 3) * 3);
  return (
    <>
      {chains.map((chain) => {
        const most = words
          .filter(({ counts }) => (counts[chain] ?? 0) > 0)
          .sort((x, y) => (y.counts[chain] ?? 0) - (x.counts[chain] ?? 0))
          .slice(0, MOST);
        const own = spectra.find((spectrum) => spectrum.chain === chain);
        return (
          <Box
            key={chain}
            sx={{
              display: 'grid',
              gridTemplateColumns: { xs: '1fr', sm: '1fr 300px' },
              columnGap: 3,
              alignItems: 'center',
              borderTop: 1,
              borderColor: token('hair'),
              py: 0.5,
            }}
          >
            <Typography>
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
              {own && `; ${widest(own.ranges)}`}
            </Typography>
            {own && (
              <OwnSpectrumChart
                chain={chain}
                differenceDb={own.differenceDb}
                reachDb={reachDb}
                said={widest(own.ranges)}
                height={SPECTRUM_PX}
              />
            )}
          </Box>
        );
      })}
      <Method>
        How often each chain’s commonest words were ticked, of {words[0]?.listeners ?? 0} listeners
        who described every chain. In bold: words that differ between the chains (Cochran, Holm);
        the others may be chance.
        {spectra.length > 0 &&
          ' Beside them: what the level-matched clip of each has over the mean of the others, thirds of an octave, 80 Hz to 12.5 kHz, dB; the number is its largest step over 1.5 dB. Words and curves stand side by side; that one made the other was not tested.'}
      </Method>
      <Measured {...props} />
    </>
  );
}

function Words(props: FoldProps) {
  return (
    <>
      {wordsOf(props).words.length > 0 && <Ticked {...props} />}
      <Remarks {...props} />
    </>
  );
}

export const words: Fold = {
  id: 'words',
  title: (props) =>
    wordsOf(props).words.length > 0 || props.result.remarks.length > 0 ? 'Words' : null,
  View: Words,
};

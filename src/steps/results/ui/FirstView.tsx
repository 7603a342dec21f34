'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { useMemo } from 'react';
import type { Answer } from '@/core/statistics/reading/answers';
import { percent } from '@/core/statistics/words';
import type { Across } from '@/steps/results/across';
import { FACES, token } from '@/ui/tokens';
import { marksOf } from './marks';
import { BeingDrawn } from '@/ui/BeingDrawn';

const PlacesChart = dynamic(() => import('./PlacesChart'), {
  ssr: false,
  loading: () => <BeingDrawn height={260} />,
});

function AnswerRow({ asked, answer }: { asked: string; answer: Answer }) {
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', sm: '150px minmax(0, 1fr) auto' },
        columnGap: 2,
        alignItems: 'baseline',
        py: 1,
        borderBottom: `1px solid ${token('hair')}`,
      }}
    >
      <Box component="dt" sx={{ color: token('soft'), fontWeight: 600, fontSize: '0.875rem' }}>
        {asked}
      </Box>
      <Box component="dd" sx={{ m: 0, fontFamily: FACES.serif, fontWeight: 600, fontSize: '1rem' }}>
        {answer.sentence}
      </Box>
      <Box
        component="dd"
        sx={{ m: 0, color: token('soft'), fontFamily: FACES.mono, fontSize: '0.8125rem' }}
      >
        {answer.figure}
      </Box>
    </Box>
  );
}

function captionOf({ picture, tiesShare }: Across): string {
  const share = picture.some(({ unit }) => unit === 'share');
  const points = picture.some(({ unit }) => unit === 'points');
  const what = [
    ...(share ? ['share of choices made against an average chain'] : []),
    ...(points ? ['points of the line from worse to better'] : []),
  ].join(', or ');
  const ties = share && tiesShare ? ` Ties left out (${percent(tiesShare)}).` : '';
  const filled = picture.some(({ claimed }) => claimed)
    ? ' Filled: may be the best there.'
    : ' No chain is filled: nothing is claimed.';
  return `${what.charAt(0).toUpperCase()}${what.slice(1)}, with 95 % intervals over listeners.${filled}${ties}`;
}

/** The answers to the plan's questions, and one picture under them. */
export function FirstView({ across, chains }: { across: Across; chains: readonly string[] }) {
  const { answers, picture } = across;
  const markOf = useMemo(() => marksOf(chains), [chains]);
  // As the first place orders them.
  const rows = useMemo(() => {
    const value = (chain: string) =>
      picture[0]?.chains.find((own) => own.chain === chain)?.value ?? -1;
    return chains
      .filter((chain) => picture.some((place) => place.chains.some((own) => own.chain === chain)))
      .sort((x, y) => value(y) - value(x));
  }, [picture, chains]);
  // Where nobody compared enough there is nothing to draw.
  const drawn = picture.some((place) => place.chains.some(({ value }) => value !== null));
  return (
    <>
      <Box component="dl" sx={{ m: 0, borderTop: `1px solid ${token('ink')}` }}>
        <AnswerRow asked="Told apart?" answer={answers.distinguishable} />
        <AnswerRow asked="Liked, and where?" answer={answers.liked} />
        <AnswerRow asked="Worth its price?" answer={answers.worth} />
        {answers.nullHypothesis && (
          <AnswerRow asked="Null hypothesis" answer={answers.nullHypothesis} />
        )}
      </Box>
      {drawn && (
        <Box component="figure" sx={{ m: 0, mt: 1.5 }}>
          <PlacesChart places={picture} chains={rows} markOf={markOf} />
          <Typography
            component="figcaption"
            sx={{ color: token('soft'), fontSize: '0.875rem', mt: 0.5 }}
          >
            {captionOf(across)}
          </Typography>
        </Box>
      )}
    </>
  );
}

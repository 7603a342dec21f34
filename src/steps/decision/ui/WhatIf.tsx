'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { type Candidate, movedOrders, orderOf, totalOf } from '@/core/decision/score';
import type { DecisionView } from '@/steps/decision/service';
import { type Column, DataTable } from '@/ui/DataTable';
import { FACES, token } from '@/ui/tokens';
import { useWeighing } from './useWeighing';
import { placeName } from './words';

const SHARES = [0.3, 0.5, 0.7] as const;
/** Of the weights that are moved one by one. */
const MIDDLE = 0.5;

const said = (order: readonly (readonly string[])[]) =>
  order.map((names) => names.join(' = ')).join(', then ');

/** Which places count how much. */
function Places({ view }: { view: DecisionView }) {
  const { places, weighing, weighed } = view;
  const { change } = useWeighing(view);
  if (places.length < 2) return null;
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, my: 1.5, alignItems: 'center' }}>
      {places.map((place) => (
        <TextField
          key={place.part}
          select
          fullWidth={false}
          size="small"
          label={`${placeName(place)} counts`}
          value={place.weight}
          onChange={({ target }) =>
            void change(
              {
                places: {
                  ...weighing.places,
                  ...Object.fromEntries(places.map((one) => [one.place, one.weight])),
                  [place.place]: Number(target.value),
                },
              },
              `${placeName(place)} counts ${target.value}.`,
            )
          }
          sx={{ minWidth: 170 }}
        >
          {[0, 1, 2, 3, 4, 5].map((weight) => (
            <MenuItem key={weight} value={weight}>
              {weight}
            </MenuItem>
          ))}
        </TextField>
      ))}
      {weighed.afterReveal && (
        <Box sx={{ color: token('ochre'), fontSize: '0.875rem' }}>weighed after the reveal</Box>
      )}
    </Box>
  );
}

/** The totals that nobody has to believe: what they are made of, and how little moves them. */
export function WhatIf({ view }: { view: DecisionView }) {
  const { criteria, chains } = view;
  const candidates = chains
    .filter(({ out }) => !out)
    .map((chain): Candidate => ({
      name: chain.name,
      sound: chain.sound,
      points: new Map(
        criteria.flatMap(({ name }, i) => {
          const own = chain.marks[i];
          return own ? [[name, own.points] as const] : [];
        }),
      ),
    }));
  const whole = candidates.filter((one) => totalOf(one, criteria, MIDDLE) !== null);
  const moved = movedOrders(whole, criteria, MIDDLE);
  return (
    <>
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', maxWidth: '80ch' }}>
        Sound and marks are not added up unless you ask: total = share · liked + (1 − share) ·
        (marks − 1) / 4, both from 0 to 1. Panels differ more than these totals show; the intervals
        above tell how much.
      </Typography>
      <Places view={view} />
      {whole.length < 2 ? (
        <Typography>
          A total needs two chains that were heard blind and have a mark that weighs; there{' '}
          {whole.length === 1 ? 'is one' : 'is none'}.
        </Typography>
      ) : (
        <>
          <DataTable
            wide
            label="Totals"
            sx={{ width: 'auto' }}
            rows={whole}
            keyOf={({ name }) => name}
            columns={[
              { label: 'Chain', names: true, cell: ({ name }) => name, sx: { fontWeight: 600 } },
              ...SHARES.map((share): Column<Candidate> => ({
                label: `sound ${100 * share} %`,
                cell: (one) => totalOf(one, criteria, share)?.toFixed(2),
                by: (one) => totalOf(one, criteria, share),
                mostFirst: true,
                right: true,
                sx: { fontFamily: FACES.mono },
              })),
            ]}
          />
          <Box component="ul" sx={{ my: 1, pl: 2.5 }}>
            {SHARES.map((share) => (
              <li key={share}>
                Sound {100 * share} %: {said(orderOf(whole, criteria, share))}
              </li>
            ))}
          </Box>
          <Typography sx={{ mt: 1.5, fontWeight: 600 }}>
            {moved.length === 0
              ? 'No weight moved by one changes the order (sound 50 %).'
              : 'Moved by one, these weights change the order (sound 50 %):'}
          </Typography>
          <Box component="ul" sx={{ my: 0.5, pl: 2.5 }}>
            {moved.map(({ criterion, weight, order }) => (
              <li key={`${criterion} ${weight}`}>
                {criterion} at {weight}: {said(order)}
              </li>
            ))}
          </Box>
        </>
      )}
    </>
  );
}

'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import type { Ladder } from '@/core/chain/walk';
import type { ChainsView, PlannedChainView } from '@/steps/chains/service';
import { DataTable } from '@/ui/DataTable';
import { CsvButton } from '@/ui/CsvButton';
import { level, signed } from '@/ui/format';
import { token } from '@/ui/tokens';

const LadderChart = dynamic(() => import('./LadderChart'), { ssr: false });
const SideBySideChart = dynamic(() => import('./SideBySideChart'), { ssr: false });

type WithLadder = PlannedChainView & { ladder: Ladder };
const hasLadder = (one: PlannedChainView): one is WithLadder => one.ladder !== null;

const unitOf = (kind: Ladder['stages'][number]['kind']) => (kind === 'sound' ? 'dB SPL' : 'dBu');

/** Signal, noise and headroom of one chain stage by stage, and of all chains side by side. */
export function LadderPanel({ view }: { view: ChainsView }) {
  const chains = useMemo(() => view.chains.filter(hasLadder), [view]);
  const [chosen, setChosen] = useState<string | null>(null);
  // First what does not work out.
  const shown =
    chains.find(({ chain }) => chain.id === chosen) ??
    chains.find(({ feasible }) => !feasible) ??
    chains[0];
  const reach = useMemo(
    () =>
      chains.flatMap(({ chain, ladder }) =>
        ladder.averageDbfs === null || ladder.peakDbfs === null || ladder.signalToNoiseDb === null
          ? []
          : [
              {
                name: chain.name,
                noiseDbfs: ladder.averageDbfs - ladder.signalToNoiseDb,
                averageDbfs: ladder.averageDbfs,
                peakDbfs: ladder.peakDbfs,
              },
            ],
      ),
    [chains],
  );
  if (!shown) return null;
  const { ladder, chain, remedies } = shown;
  const assumed = [...view.sourceAssumed, ...ladder.assumed];
  return (
    <>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'end', gap: 2, mt: 4, mb: 1 }}>
        <Typography variant="h2" sx={{ flex: '1 1 300px' }}>
          {chain.name}: {shown.finding}
        </Typography>
        <TextField
          select
          label="Gain ladder of"
          value={chain.id}
          onChange={(event) => setChosen(event.target.value)}
          sx={{ maxWidth: 240 }}
        >
          {chains.map((one) => (
            <MenuItem key={one.chain.id} value={one.chain.id}>
              {one.chain.name}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      {remedies.length > 0 && (
        <Box component="ul" sx={{ mt: 0, mb: 1, pl: 2.5 }}>
          {remedies.map(({ text, noiseDba, noiseChangeDb }) => (
            <li key={text}>
              {text} It leaves {level(noiseDba, 1)} dBA at matched loudness
              {noiseChangeDb === null ? '' : ` (${signed(noiseChangeDb, 1, 'dB')})`}.
            </li>
          ))}
        </Box>
      )}
      {!shown.feasible && remedies.length === 0 && !ladder.incomplete && (
        <Typography sx={{ mb: 1 }}>
          Nothing of the gear list makes it feasible by one change.
        </Typography>
      )}
      <LadderChart ladder={ladder} />
      <Typography sx={{ color: token('soft'), fontSize: '0.8125rem', maxWidth: '86ch' }}>
        Each column reaches from the noise (A-weighted) over the average, blue, to the peaks; the
        bar above is where the stage ends. Levels are those of sines with the same power and the
        same peak, so peaks stand 3 dB less over the average than the crest of the source, which is
        counted from its mean square. {shown.loading.join(' ')}{' '}
        {assumed.length > 0 && `Assumed: ${assumed.join('; ')}.`}
      </Typography>
      <DataTable
        wide
        label={`Stages of ${chain.name}`}
        rows={ladder.stages}
        keyOf={(_, i) => String(i)}
        columns={[
          { label: 'Stage', cell: ({ name }) => name },
          { label: 'Gain', cell: ({ gainDb }) => signed(gainDb, 1, 'dB'), right: true },
          {
            label: 'Average',
            cell: ({ signalDb, kind }) => level(signalDb, 1, unitOf(kind)),
            right: true,
          },
          {
            label: 'Peaks',
            cell: ({ peakDb, kind }) => level(peakDb, 1, unitOf(kind)),
            right: true,
          },
          {
            label: 'Noise',
            cell: ({ noiseDb, kind }) => level(noiseDb, 1, kind === 'sound' ? 'dBA' : 'dBu(A)'),
            right: true,
          },
          {
            label: 'Headroom',
            cell: ({ headroomDb }) => level(headroomDb, 1, 'dB'),
            right: true,
            sxOf: ({ headroomDb }) => ({
              color: (headroomDb ?? 0) < 0 ? token('red') : undefined,
            }),
          },
          {
            label: '',
            cell: ({ remark }) => remark?.replace('-', '−'),
            sx: { color: token('soft') },
          },
        ]}
      />
      <CsvButton
        fileName="gain-ladder.csv"
        rows={chains.flatMap((one) =>
          one.ladder.stages.map((stage) => ({
            chain: one.chain.name,
            stage: stage.name,
            unit: unitOf(stage.kind),
            gainDb: stage.gainDb,
            average: stage.signalDb,
            peak: stage.peakDb,
            noiseA: stage.noiseDb,
            headroomDb: stage.headroomDb,
          })),
        )}
      />
      {reach.length > 1 && (
        <>
          <Typography variant="h2" sx={{ mt: 4, mb: 1 }}>
            Side by side, at the converter
          </Typography>
          <SideBySideChart rows={reach} />
        </>
      )}
    </>
  );
}

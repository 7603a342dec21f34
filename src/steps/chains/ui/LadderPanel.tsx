'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import type { Ladder } from '@/core/chain/walk';
import type { ChainsView, PlannedChainView } from '@/steps/chains/service';
import { CsvButton } from '@/ui/CsvButton';
import { level, signed } from '@/ui/format';
import { token } from '@/ui/tokens';
import { WideTable } from '@/ui/WideTable';

const LadderChart = dynamic(() => import('./LadderChart'), { ssr: false });
const SideBySideChart = dynamic(() => import('./SideBySideChart'), { ssr: false });

type WithLadder = PlannedChainView & { ladder: Ladder };
const hasLadder = (one: PlannedChainView): one is WithLadder => one.ladder !== null;

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
      <WideTable label="Gain ladder">
        <Table size="small" aria-label={`Stages of ${chain.name}`}>
          <TableHead>
            <TableRow>
              <TableCell>Stage</TableCell>
              <TableCell align="right">Gain</TableCell>
              <TableCell align="right">Average</TableCell>
              <TableCell align="right">Peaks</TableCell>
              <TableCell align="right">Noise</TableCell>
              <TableCell align="right">Headroom</TableCell>
              <TableCell />
            </TableRow>
          </TableHead>
          <TableBody>
            {ladder.stages.map(
              ({ name, kind, gainDb, signalDb, peakDb, noiseDb, headroomDb, remark }, i) => {
                const unit = kind === 'sound' ? 'dB SPL' : 'dBu';
                return (
                  <TableRow key={`${i} ${name}`}>
                    <TableCell>{name}</TableCell>
                    <TableCell align="right">{signed(gainDb, 1, 'dB')}</TableCell>
                    <TableCell align="right">{level(signalDb, 1, unit)}</TableCell>
                    <TableCell align="right">{level(peakDb, 1, unit)}</TableCell>
                    <TableCell align="right">
                      {level(noiseDb, 1, kind === 'sound' ? 'dBA' : 'dBu(A)')}
                    </TableCell>
                    <TableCell
                      align="right"
                      sx={{ color: (headroomDb ?? 0) < 0 ? token('red') : undefined }}
                    >
                      {level(headroomDb, 1, 'dB')}
                    </TableCell>
                    <TableCell sx={{ color: token('soft') }}>{remark?.replace('-', '−')}</TableCell>
                  </TableRow>
                );
              },
            )}
          </TableBody>
        </Table>
      </WideTable>
      <CsvButton
        fileName="gain-ladder.csv"
        rows={chains.flatMap((one) =>
          one.ladder.stages.map((stage) => ({
            chain: one.chain.name,
            stage: stage.name,
            unit: stage.kind === 'sound' ? 'dB SPL' : 'dBu',
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

'use client';

import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Tooltip from '@mui/material/Tooltip';
import { arrivalCm, FARTHEST_S } from '@/core/checks/set/arrival';
import { stagesWords } from '@/core/processing/stages';
import { combNotchesHz } from '@/core/signal/stereo-image';
import type { Clip, ClipSet } from '@/steps/match/schema';
import { level, signed } from '@/ui/format';
import { token } from '@/ui/tokens';

const FULL_RESIDUAL_LU = 0.05;
const BAR_PX = 20;

function ResidualBar({ residualLu }: { residualLu: number }) {
  const width = Math.max(
    1.5,
    (BAR_PX * Math.min(FULL_RESIDUAL_LU, Math.abs(residualLu))) / FULL_RESIDUAL_LU,
  );
  const half = BAR_PX + 2;
  return (
    <Tooltip
      title={`measured on the rendered bytes minus the target; the bar's end is ±${FULL_RESIDUAL_LU} LU`}
    >
      <Box component="span" sx={{ display: 'inline-flex', alignItems: 'center', gap: 1 }}>
        <svg width={2 * half} height="16" aria-hidden>
          <line x1={half} x2={half} y1="1" y2="15" stroke={token('soft')} />
          <rect
            x={residualLu < 0 ? half - width : half}
            y="5"
            width={width}
            height="6"
            fill={token('pen')}
          />
        </svg>
        {signed(residualLu, 3, '').trim()}
      </Box>
    </Tooltip>
  );
}

/** What a variant went through; drift, blend, stereo image and tone match of a clip, in words. */
function remarksOf(
  { details: { driftPpm, blend, image, toning, stages = [] } }: Clip,
  rate: number,
  nameOf: (chainId: string) => string,
): string[] {
  const remarks: string[] = [];
  if (stages.length > 0) remarks.push(`through ${stagesWords(stages, nameOf)}`);
  if (driftPpm) remarks.push(`clock drift of ${signed(driftPpm, 1, 'ppm')} taken out`);
  if (blend) {
    const late = `second chain ${signed((1000 * blend.delaySamples) / rate, 2, 'ms')} late`;
    const notches =
      blend.leftSamples === 0
        ? 'aligned, no comb'
        : `as recorded, notches at ${combNotchesHz(
            Math.abs(blend.leftSamples) / rate,
            3,
            blend.leftInverted,
          )
            .map((hz) => Math.round(hz))
            .join(', ')} Hz`;
    remarks.push(`${late}${blend.polarityInverted ? ', turned over' : ''}; ${notches}`);
  }
  if (image) {
    const width = image.widthDb === null ? 'mono' : `side ${signed(image.widthDb, 1, 'dB')}`;
    remarks.push(
      `${width}, correlation ${image.correlation.toFixed(2)}, right ${signed(image.centreOffsetDb, 1, 'dB')}`,
    );
  }
  const most = toning?.reduce((a, b) => (b.db > a.db ? b : a));
  if (most && most.db > 0.5) {
    remarks.push(
      `lifted by up to ${signed(most.db, 1, 'dB')} at ${most.centerHz} Hz, its noise with it`,
    );
  }
  return remarks;
}

/** The books of a match: what was done to each take, and how well it worked. */
export function ClipTable({
  clipSet,
  clips,
  nameOf,
  planOf,
  noiseDbOf,
  temperatureC,
}: {
  clipSet: ClipSet;
  clips: Clip[];
  nameOf: (chainId: string) => string;
  /** What the plan says of a chain's array, in words. */
  planOf: (chainId: string) => string | null;
  /** A-weighted noise floor of a chain as recorded, dBFS. */
  noiseDbOf: (chainId: string) => number | null;
  temperatureC: number;
}) {
  const rate = clipSet.facts?.sampleRateHz ?? 48000;
  return (
    <Table aria-label="Matched clips" sx={{ mt: 1 }}>
      <TableHead>
        <TableRow>
          <TableCell sx={{ minWidth: 215 }}>Chain</TableCell>
          <TableCell align="right">Late by</TableCell>
          <TableCell align="right">Polarity</TableCell>
          <TableCell align="right">Before, LUFS</TableCell>
          <TableCell align="right">Make-up gain</TableCell>
          <TableCell align="right">After, LUFS</TableCell>
          <TableCell align="right">Residual, LU</TableCell>
          <TableCell align="right">Peak, dBTP</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {clips.map((clip) => (
          <TableRow key={clip.chainId}>
            <TableCell>
              {nameOf(clip.chainId)}
              <Box sx={{ color: token('soft'), fontSize: '0.8125rem', overflowWrap: 'anywhere' }}>
                {clip.fileName}
              </Box>
              {clip.chainId === clipSet.referenceChainId && (
                <Box sx={{ color: token('soft'), fontSize: '0.8125rem' }}>reference</Box>
              )}
              {[planOf(clip.chainId) ?? [], remarksOf(clip, rate, nameOf)].flat().map((remark) => (
                <Box key={remark} sx={{ color: token('soft'), fontSize: '0.8125rem' }}>
                  {remark}
                </Box>
              ))}
            </TableCell>
            <TableCell align="right">
              <Tooltip
                title={`${clip.delaySamples.toFixed(2)} samples at ${rate / 1000} kHz${clip.coherence === null ? '' : `; coherence ${clip.coherence.toFixed(2)}`}`}
              >
                <span>{signed((1000 * clip.delaySamples) / rate, 2, 'ms')}</span>
              </Tooltip>
              {clip.coherence !== null &&
                clip.chainId !== clipSet.referenceChainId &&
                Math.abs(clip.delaySamples) <= FARTHEST_S * rate && (
                  <Box sx={{ color: token('soft'), fontSize: '0.8125rem' }}>
                    {signed(arrivalCm(clip.delaySamples, rate, temperatureC), 1, 'cm')}
                  </Box>
                )}
            </TableCell>
            <TableCell
              align="right"
              sx={{
                color: clip.polarityInverted ? token('red') : undefined,
                maxWidth: 110,
                whiteSpace: 'normal',
              }}
            >
              {clip.polarityInverted ? 'flipped, corrected' : 'same'}
            </TableCell>
            <TableCell align="right">{level(clip.beforeLufs, 2)}</TableCell>
            <TableCell align="right">
              {signed(clip.gainDb, 2, 'dB')}
              {clipSet.context === 'raw' && noiseDbOf(clip.chainId) !== null && (
                <Box sx={{ color: token('soft'), fontSize: '0.8125rem' }}>
                  noise {level((noiseDbOf(clip.chainId) ?? 0) + clip.gainDb, 1, 'dBFS(A)')}
                </Box>
              )}
            </TableCell>
            <TableCell align="right">{level(clip.afterLufs, 2)}</TableCell>
            <TableCell align="right">
              <ResidualBar residualLu={clip.residualLu} />
            </TableCell>
            <TableCell align="right">{level(clip.truePeakDbtp, 1)}</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}

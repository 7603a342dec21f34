'use client';

import HighlightOffIcon from '@mui/icons-material/HighlightOff';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import type { ReactNode } from 'react';
import { arrivalCm, FARTHEST_S } from '@/core/checks/set/arrival';
import { stagesWords } from '@/core/processing/stages';
import { combNotchesHz } from '@/core/signal/stereo-image';
import type { Clip, ClipSet } from '@/steps/match/schema';
import { DataTable } from '@/ui/DataTable';
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

/** A second line of a cell. */
function Small({ wrap = false, children }: { wrap?: boolean; children: ReactNode }) {
  return (
    <Box
      sx={{
        color: token('soft'),
        fontSize: '0.8125rem',
        overflowWrap: wrap ? 'anywhere' : undefined,
      }}
    >
      {children}
    </Box>
  );
}

/** The books of a match: what was done to each take, and how well it worked. */
export function ClipTable({
  clipSet,
  clips,
  nameOf,
  planOf,
  noiseDbOf,
  temperatureC,
  onLeaveOut,
}: {
  clipSet: ClipSet;
  clips: Clip[];
  nameOf: (chainId: string) => string;
  /** What the plan says of a chain's array, in words. */
  planOf: (chainId: string) => string | null;
  /** A-weighted noise floor of a chain as recorded, dBFS. */
  noiseDbOf: (chainId: string) => number | null;
  temperatureC: number;
  /** Matches again without one; absent where none may be missing. */
  onLeaveOut?: (chainId: string) => void;
}) {
  const rate = clipSet.facts?.sampleRateHz ?? 48000;
  return (
    <DataTable
      wide
      label="Matched clips"
      size="medium"
      sx={{ mt: 1 }}
      rows={clips}
      keyOf={({ chainId }) => chainId}
      columns={[
        {
          label: 'Chain',
          headSx: { minWidth: 215 },
          by: ({ chainId }) => nameOf(chainId),
          cell: (clip) => (
            <>
              {nameOf(clip.chainId)}
              <Small wrap>{clip.fileName}</Small>
              {clip.chainId === clipSet.referenceChainId && <Small>reference</Small>}
              {[planOf(clip.chainId) ?? [], remarksOf(clip, rate, nameOf)].flat().map((remark) => (
                <Small key={remark}>{remark}</Small>
              ))}
            </>
          ),
        },
        {
          label: 'Late by',
          right: true,
          by: ({ delaySamples }) => delaySamples,
          cell: (clip) => (
            <>
              <Tooltip
                title={`${clip.delaySamples.toFixed(2)} samples at ${rate / 1000} kHz${clip.coherence === null ? '' : `; coherence ${clip.coherence.toFixed(2)}`}`}
              >
                <span>{signed((1000 * clip.delaySamples) / rate, 2, 'ms')}</span>
              </Tooltip>
              {clip.coherence !== null &&
                clip.chainId !== clipSet.referenceChainId &&
                Math.abs(clip.delaySamples) <= FARTHEST_S * rate && (
                  <Small>{signed(arrivalCm(clip.delaySamples, rate, temperatureC), 1, 'cm')}</Small>
                )}
            </>
          ),
        },
        {
          label: 'Polarity',
          right: true,
          cell: ({ polarityInverted }) => (polarityInverted ? 'flipped, corrected' : 'same'),
          sxOf: ({ polarityInverted }) => ({
            color: polarityInverted ? token('red') : undefined,
            maxWidth: 110,
            whiteSpace: 'normal',
          }),
        },
        {
          label: 'Before, LUFS',
          right: true,
          by: ({ beforeLufs }) => beforeLufs,
          cell: ({ beforeLufs }) => level(beforeLufs, 2),
        },
        {
          label: 'Make-up gain',
          right: true,
          by: ({ gainDb }) => gainDb,
          cell: ({ chainId, gainDb }) => (
            <>
              {signed(gainDb, 2, 'dB')}
              {clipSet.context === 'raw' && noiseDbOf(chainId) !== null && (
                <Small>noise {level((noiseDbOf(chainId) ?? 0) + gainDb, 1, 'dBFS(A)')}</Small>
              )}
            </>
          ),
        },
        {
          label: 'After, LUFS',
          right: true,
          by: ({ afterLufs }) => afterLufs,
          cell: ({ afterLufs }) => level(afterLufs, 2),
        },
        {
          label: 'Residual, LU',
          right: true,
          by: ({ residualLu }) => residualLu,
          cell: ({ residualLu }) => <ResidualBar residualLu={residualLu} />,
        },
        {
          label: 'Peak, dBTP',
          right: true,
          by: ({ truePeakDbtp }) => truePeakDbtp,
          cell: ({ truePeakDbtp }) => level(truePeakDbtp, 1),
        },
        {
          label: '',
          id: 'actions',
          right: true,
          sx: { px: 0 },
          cell: ({ chainId }) =>
            onLeaveOut &&
            chainId !== clipSet.referenceChainId && (
              <IconButton
                size="small"
                title="Does not fit: match again without it"
                aria-label={`Leave out ${nameOf(chainId)}`}
                onClick={() => onLeaveOut(chainId)}
              >
                <HighlightOffIcon fontSize="small" />
              </IconButton>
            ),
        },
      ]}
    />
  );
}

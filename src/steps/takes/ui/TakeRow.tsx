'use client';

import DragIndicatorIcon from '@mui/icons-material/DragIndicator';
import MoreVertIcon from '@mui/icons-material/MoreVert';
import PauseIcon from '@mui/icons-material/Pause';
import PlayArrowIcon from '@mui/icons-material/PlayArrow';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import IconButton from '@mui/material/IconButton';
import LinearProgress from '@mui/material/LinearProgress';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { useDraggable } from '@dnd-kit/react';
import { useState } from 'react';
import { programmeLabel } from '@/core/checks/programme';
import { recordedAt } from '@/core/checks/recorded';
import type { Chain } from '@/steps/chains/schema';
import type { Source } from '@/steps/comparisons/schema';
import type { ShownTake, TakesChange } from '@/steps/takes/schema';
import { clock, level } from '@/ui/format';
import { token } from '@/ui/tokens';

const NO_CHAIN = '-';
const NEW_CHAIN = '+';

/** What tells which performance a take is of. */
const GROUNDS = {
  given: 'as you said',
  sound: 'by its sound',
  time: 'by its time',
  name: 'by its name',
  order: 'by its order',
} as const;

/** Characters that fit on the line that a remark has; more is shown on demand. */
const ONE_LINE = 44;

/** What a check says: one line, and the rest when asked for. */
function Remark({ text }: { text: string }) {
  const [open, setOpen] = useState(false);
  if (text.length <= ONE_LINE) return <Box component="span">{text} </Box>;
  return (
    <>
      <Box
        sx={open ? {} : { overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}
        title={open ? undefined : text}
      >
        {text}
      </Box>
      <Button
        size="small"
        aria-expanded={open}
        aria-label={`${open ? 'Less' : 'More'}: ${text}`}
        onClick={() => setOpen(!open)}
        sx={{ p: 0, mr: 1.5, minWidth: 0, verticalAlign: 'baseline', fontSize: '0.8125rem' }}
      >
        {open ? 'Less' : 'More'}
      </Button>
    </>
  );
}

function TakeState({
  take,
  progress,
  onAccept,
}: {
  take: ShownTake;
  progress: number;
  onAccept: (check: string) => void;
}) {
  if (take.state === 'waiting') {
    return (
      <Box sx={{ minWidth: 120 }}>
        <Box sx={{ color: token('soft'), fontSize: '0.8125rem' }}>being checked</Box>
        <LinearProgress
          variant="determinate"
          value={100 * progress}
          aria-label={`${take.fileName} checked`}
        />
      </Box>
    );
  }
  if (take.state !== 'ready') return <Box sx={{ color: token('red') }}>{take.remark}</Box>;
  const warnings = take.facts?.warnings ?? [];
  const accepted = new Map(take.overrides.map(({ check, reason }) => [check, reason]));
  if (take.checks.length === 0 && warnings.length === 0) {
    return <Box sx={{ color: token('green') }}>nothing odd</Box>;
  }
  return (
    <>
      {take.checks.map(({ check, severity, text }) => {
        const reason = accepted.get(check);
        const colour = reason ? 'soft' : severity === 'problem' ? 'red' : 'ochre';
        return (
          <Box key={check} sx={{ color: token(colour) }}>
            <Remark text={`${text}${reason ? ` Accepted: ${reason}.` : ''}`} />
            <Button
              size="small"
              aria-label={`${reason ? 'Take back for' : 'Accept for'} ${take.fileName}: ${check}`}
              onClick={() => onAccept(check)}
              sx={{ p: 0, minWidth: 0, verticalAlign: 'baseline', fontSize: '0.8125rem' }}
            >
              {reason ? 'Change' : 'Accept'}
            </Button>
          </Box>
        );
      })}
      {warnings.map((warning) => (
        <Box key={warning} sx={{ color: token('soft') }}>
          <Remark text={`${warning.charAt(0).toUpperCase()}${warning.slice(1)}.`} />
        </Box>
      ))}
    </>
  );
}

function format(
  { facts, channels, simulated, programme, detail, sourceId, performance }: ShownTake,
  [, ...further]: readonly Source[],
  playedOften: boolean,
): string {
  const parts: string[] = [];
  if (performance?.renderedFrom) {
    parts.push(
      `rendered elsewhere from a take of its chain${playedOften ? `, performance ${performance.number}` : ''}`,
    );
  } else if (performance && playedOften) {
    parts.push(`performance ${performance.number}, ${GROUNDS[performance.ground]}`);
  }
  if (programme !== 'performance') parts.push(programmeLabel(programme, detail));
  const source = further.find(({ id }) => id === sourceId);
  if (source) parts.push(source.name);
  if (facts) {
    const kind = facts.encoding === 'float' ? '-bit float' : ' bits';
    const wide =
      facts.channels === 1
        ? 'mono'
        : facts.channels === 2
          ? 'stereo'
          : `${facts.channels} channels`;
    parts.push(`${facts.sampleRateHz / 1000} kHz, ${facts.bitDepth}${kind}, ${wide}`);
    const at = recordedAt(facts.metadata, facts.sampleRateHz);
    if (at) parts.push(`recorded ${at}`);
    if (facts.metadata.description) parts.push(`“${facts.metadata.description}”`);
  }
  if (channels) parts.push(`channel ${channels.map((c) => c + 1).join(' and ')} of the file`);
  if (simulated) parts.push('simulated');
  return parts.join(' · ');
}

/** One take, with everything that can be done about it. */
export function TakeRow({
  take,
  chains,
  sources,
  progress,
  several,
  playedOften,
  selected,
  playing,
  onSelect,
  onPlay,
  onChange,
  onPick,
  onAccept,
  onSplit,
  onRemove,
}: {
  take: ShownTake;
  chains: Chain[];
  sources: Source[];
  progress: number;
  /** Whether its chain has other takes of the same music. */
  several: boolean;
  /** Whether somebody played more than once. */
  playedOften: boolean;
  selected: boolean;
  playing: boolean;
  onSelect: (on: boolean) => void;
  onPlay: () => void;
  onChange: (what: Omit<TakesChange, 'takeIds'>) => void;
  onPick: () => void;
  onAccept: (check: string) => void;
  onSplit: () => void;
  onRemove: () => void;
}) {
  const [menuAt, setMenuAt] = useState<HTMLElement | null>(null);
  const { ref, handleRef } = useDraggable({ id: take.id });
  const usable = take.state === 'ready' || take.state === 'waiting';
  const performance = take.programme === 'performance';
  const act = (what: () => void) => () => {
    setMenuAt(null);
    what();
  };
  const splittable = take.state === 'ready' && !take.channels && (take.facts?.channels ?? 1) > 1;
  return (
    <TableRow ref={ref} selected={selected}>
      <TableCell padding="checkbox" sx={{ whiteSpace: 'nowrap' }}>
        <Checkbox
          checked={selected}
          slotProps={{ input: { 'aria-label': `Choose ${take.fileName}` } }}
          onChange={(_, on) => onSelect(on)}
        />
        {take.state === 'ready' && (
          <IconButton
            size="small"
            aria-label={playing ? `Stop ${take.fileName}` : `Play ${take.fileName}`}
            onClick={onPlay}
          >
            {playing ? <PauseIcon fontSize="small" /> : <PlayArrowIcon fontSize="small" />}
          </IconButton>
        )}
      </TableCell>
      <TableCell sx={{ overflowWrap: 'anywhere' }}>
        {take.fileName}
        <Box sx={{ color: token('soft'), fontSize: '0.8125rem' }}>
          {format(take, sources, playedOften)}
        </Box>
      </TableCell>
      <TableCell>
        {usable && take.programme !== 'backing' && (
          <Select
            value={take.chainId ?? NO_CHAIN}
            onChange={({ target }) => {
              if (target.value === NEW_CHAIN) {
                onChange({ newChainName: take.fileName.replace(/\.[^.]+$/, '').slice(0, 80) });
              } else onChange({ chainId: target.value === NO_CHAIN ? null : target.value });
            }}
            slotProps={{ input: { 'aria-label': `Chain of ${take.fileName}` } }}
            sx={{
              minWidth: 160,
              fontSize: '0.875rem',
              color: token(take.chainId ? 'ink' : 'red'),
            }}
          >
            <MenuItem value={NO_CHAIN}>no chain yet</MenuItem>
            {chains.map(({ id, name }) => (
              <MenuItem key={id} value={id}>
                {name}
              </MenuItem>
            ))}
            <MenuItem value={NEW_CHAIN}>a new chain of this name</MenuItem>
          </Select>
        )}
        {take.picked && several && (
          <Box sx={{ color: token('green'), fontSize: '0.8125rem' }}>
            clips are made of this one
          </Box>
        )}
        {take.nearest && !take.picked && several && (
          <Box sx={{ color: token('soft'), fontSize: '0.8125rem' }}>
            nearest to the other chains’ takes
          </Box>
        )}
      </TableCell>
      <TableCell align="right">{take.facts ? clock(take.facts.durationS) : ''}</TableCell>
      <TableCell align="right">
        {take.facts ? level(take.facts.measurement.integratedLufs, 1) : ''}
      </TableCell>
      <TableCell align="right">
        {take.facts ? level(take.facts.measurement.truePeakDbtp, 1) : ''}
      </TableCell>
      <TableCell sx={{ maxWidth: 0, overflow: 'hidden' }}>
        <TakeState take={take} progress={progress} onAccept={onAccept} />
      </TableCell>
      <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
        {usable && (
          <IconButton
            ref={handleRef}
            size="small"
            aria-label={`Drag ${take.fileName} to a chain`}
            sx={{ cursor: 'grab', touchAction: 'none' }}
          >
            <DragIndicatorIcon fontSize="small" />
          </IconButton>
        )}
        <IconButton
          size="small"
          aria-label={`More about ${take.fileName}`}
          onClick={({ currentTarget }) => setMenuAt(currentTarget)}
        >
          <MoreVertIcon fontSize="small" />
        </IconButton>
        <Menu anchorEl={menuAt} open={menuAt !== null} onClose={() => setMenuAt(null)}>
          {performance && several && take.chainId && take.state === 'ready' && (
            <MenuItem onClick={act(onPick)}>Make clips of this take</MenuItem>
          )}
          {splittable && <MenuItem onClick={act(onSplit)}>Split its channels to chains</MenuItem>}
          {!take.chainId && take.state === 'ready' && take.programme !== 'backing' && (
            <MenuItem onClick={act(() => onChange({ programme: 'backing', chainId: null }))}>
              It is a backing track
            </MenuItem>
          )}
          {!performance && (
            <MenuItem onClick={act(() => onChange({ programme: 'performance', detail: '' }))}>
              It is a performance
            </MenuItem>
          )}
          {sources.length > 1 &&
            sources
              .filter(({ id }) => id !== take.sourceId)
              .map(({ id, name }) => (
                <MenuItem key={id} onClick={act(() => onChange({ sourceId: id }))}>
                  It is of the source {name}
                </MenuItem>
              ))}
          <MenuItem onClick={act(onRemove)}>Remove {take.fileName}</MenuItem>
        </Menu>
      </TableCell>
    </TableRow>
  );
}

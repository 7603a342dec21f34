'use client';

import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import MenuItem from '@mui/material/MenuItem';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TablePagination from '@mui/material/TablePagination';
import TableRow from '@mui/material/TableRow';
import TextField from '@mui/material/TextField';
import { DragDropProvider } from '@dnd-kit/react';
import { useEffect, useRef, useState } from 'react';
import { PROGRAMME, programmeLabel } from '@/core/checks/programme';
import type { Chain } from '@/steps/chains/schema';
import type { Source } from '@/steps/comparisons/schema';
import type { ShownTake, TakesChange } from '@/steps/takes/schema';
import { INSIST, NamedListening } from '@/ui/NamedListening';
import { useSend } from '@/ui/useSend';
import { AssignBar } from './AssignBar';
import { ChainShelf } from './ChainShelf';
import { ChannelDialog } from './ChannelDialog';
import { OverrideDialog } from './OverrideDialog';
import { TakeRow } from './TakeRow';

const PAGE = 50;
const ALL = 'all';

/** What the table can be narrowed to, as "step label" or a check that has something to say. */
function shownUnder(take: ShownTake, filter: string): boolean {
  if (filter === ALL) return true;
  if (filter === 'odd') return take.checks.length > 0 || take.state !== 'ready';
  if (filter === 'free') return take.chainId === null;
  return take.programme === filter;
}

/** All takes: whose they are, what they hold, what is odd about them. Several can be given away at once. */
export function TakeTable({
  base,
  chains,
  sources,
  takes,
  guarded,
  work,
  onRemove,
}: {
  /** Address of the comparison's routes. */
  base: string;
  chains: Chain[];
  sources: Source[];
  takes: ShownTake[];
  /** Takes that open sittings ask about. */
  guarded: readonly string[];
  work: { label: string; progress: number }[];
  onRemove: (takes: ShownTake[]) => void;
}) {
  const { send } = useSend();
  const [page, setPage] = useState(0);
  const [filter, setFilter] = useState(ALL);
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const [playing, setPlaying] = useState<string | null>(null);
  /** What somebody wants to hear by name although a sitting asks about it. */
  const [wanted, setWanted] = useState<ShownTake | null>(null);
  const [accepting, setAccepting] = useState<{ take: ShownTake; check: string } | null>(null);
  const [splitting, setSplitting] = useState<ShownTake | null>(null);
  const audio = useRef<HTMLAudioElement | null>(null);
  useEffect(() => () => audio.current?.pause(), []);
  const steps = [...new Set(takes.map(({ programme }) => programme))];
  // The music first, then the test programme in its order.
  const order = (take: ShownTake) => PROGRAMME.findIndex(({ id }) => id === take.programme);
  const shown = takes
    .filter((take) => shownUnder(take, filter))
    .sort((a, b) => order(a) - order(b));
  const from = Math.min(page, Math.max(0, Math.ceil(shown.length / PAGE) - 1)) * PAGE;
  const visible = shown.slice(from, from + PAGE);
  const chosen = takes.filter(({ id }) => selected.has(id));
  const change = (ids: string[], what: Omit<TakesChange, 'takeIds'>) =>
    send('PUT', `${base}/takes`, { takeIds: ids, ...what });
  const play = (take: ShownTake, insists = false) => {
    const shut = guarded.includes(take.id);
    setWanted(shut && !insists ? take : null);
    if (shut && !insists && playing !== take.id) return;
    audio.current ??= new Audio();
    const { current } = audio;
    if (playing === take.id) {
      current.pause();
      setPlaying(null);
      return;
    }
    current.src = `${base}/takes/${take.id}/audio${shut ? INSIST : ''}`;
    current.onended = () => setPlaying(null);
    setPlaying(take.id);
    void current.play().catch(() => setPlaying(null));
  };
  const select = (ids: string[], on: boolean) =>
    setSelected((before) => {
      const next = new Set(before);
      for (const id of ids) {
        if (on) next.add(id);
        else next.delete(id);
      }
      return next;
    });
  const dropped = (takeId: string, chainId: string | null) => {
    const ids = selected.has(takeId) ? [...selected] : [takeId];
    void change(ids, { chainId });
  };
  return (
    <DragDropProvider
      onDragEnd={({ canceled, operation: { source, target } }) => {
        if (!canceled && source && target) {
          dropped(String(source.id), target.id === 'none' ? null : String(target.id));
        }
      }}
    >
      {wanted && <NamedListening onInsist={() => play(wanted, true)} />}
      {takes.length > 1 && <ChainShelf chains={chains} takes={takes} />}
      {takes.length > 5 && (
        <TextField
          select
          label="Show"
          value={filter}
          onChange={({ target }) => {
            setFilter(target.value);
            setPage(0);
          }}
          sx={{ width: 260, my: 1 }}
        >
          <MenuItem value={ALL}>all {takes.length} takes</MenuItem>
          <MenuItem value="odd">takes with something odd</MenuItem>
          <MenuItem value="free">takes without a chain</MenuItem>
          {steps.map((id) => (
            <MenuItem key={id} value={id}>
              {programmeLabel(id, '')}
            </MenuItem>
          ))}
        </TextField>
      )}
      {chosen.length > 0 && (
        <AssignBar
          chains={chains}
          sources={sources}
          takes={chosen}
          onChange={(what) => void change([...selected], what)}
          onRemove={() => onRemove(chosen)}
          onDone={() => setSelected(new Set())}
        />
      )}
      <Table aria-label="Takes">
        <TableHead>
          <TableRow>
            <TableCell padding="checkbox">
              <Checkbox
                slotProps={{ input: { 'aria-label': 'Choose all that are shown' } }}
                checked={visible.length > 0 && visible.every(({ id }) => selected.has(id))}
                onChange={(_, on) =>
                  select(
                    visible.map(({ id }) => id),
                    on,
                  )
                }
              />
            </TableCell>
            <TableCell sx={{ width: '34%' }}>File</TableCell>
            <TableCell>Chain</TableCell>
            <TableCell align="right">Length</TableCell>
            <TableCell align="right">
              Loudness,
              <Box component="span" sx={{ display: 'block' }}>
                LUFS
              </Box>
            </TableCell>
            <TableCell align="right">
              Peak,
              <Box component="span" sx={{ display: 'block' }}>
                dBTP
              </Box>
            </TableCell>
            <TableCell>Checks</TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {visible.map((take) => (
            <TakeRow
              key={take.id}
              take={take}
              chains={chains}
              sources={sources}
              progress={work.find(({ label }) => label.startsWith(take.fileName))?.progress ?? 0}
              several={takes.some(
                (other) =>
                  other.id !== take.id &&
                  other.chainId === take.chainId &&
                  other.programme === 'performance' &&
                  other.sourceId === take.sourceId,
              )}
              selected={selected.has(take.id)}
              playing={playing === take.id}
              onSelect={(on) => select([take.id], on)}
              onPlay={() => play(take)}
              onChange={(what) => void change([take.id], what)}
              onPick={() => void send('POST', `${base}/takes/${take.id}/pick`)}
              onAccept={(check) => setAccepting({ take, check })}
              onSplit={() => setSplitting(take)}
              onRemove={() => onRemove([take])}
            />
          ))}
        </TableBody>
      </Table>
      {shown.length > PAGE && (
        <TablePagination
          component="div"
          count={shown.length}
          page={from / PAGE}
          rowsPerPage={PAGE}
          rowsPerPageOptions={[PAGE]}
          onPageChange={(_, next) => setPage(next)}
        />
      )}
      {accepting && (
        <OverrideDialog
          take={accepting.take}
          check={accepting.check}
          url={`${base}/takes/${accepting.take.id}/override`}
          onClose={() => setAccepting(null)}
        />
      )}
      {splitting && (
        <ChannelDialog
          take={splitting}
          chains={chains}
          url={`${base}/takes/${splitting.id}/split`}
          onClose={() => setSplitting(null)}
        />
      )}
    </DragDropProvider>
  );
}

'use client';

import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TableSortLabel from '@mui/material/TableSortLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { DragDropProvider } from '@dnd-kit/react';
import { useEffect, useRef, useState } from 'react';
import { PROGRAMME_IDS, type ProgrammeId, programmeLabel } from '@/core/checks/programme';
import { TAKES } from '@/steps/takes/endpoints';
import type { Chain } from '@/steps/chains/schema';
import type { Source } from '@/steps/comparisons/schema';
import type { ShownTake, TakesChange, TakesQuery } from '@/steps/takes/schema';
import type { TakesView } from '@/steps/takes/takes-view';
import { FEW, ListPages, SearchField, useList } from '@/ui/lists';
import { INSIST, NamedListening } from '@/ui/NamedListening';
import { NextLink } from '@/ui/NextLink';
import { useSend } from '@/ui/useSend';
import { AssignBar } from './AssignBar';
import { ChainShelf } from './ChainShelf';
import { ChannelDialog } from './ChannelDialog';
import { OverrideDialog } from './OverrideDialog';
import { TakeRow } from './TakeRow';

const SHOWN = [
  ['all', 'all takes'],
  ['odd', 'takes with something odd'],
  ['free', 'takes without a chain'],
] as const;

function isStep(show: TakesQuery['show']): show is ProgrammeId {
  return PROGRAMME_IDS.some((id) => id === show);
}

/** All takes: whose they are, what they hold, what is odd about them. Several can be given away at once. */
export function TakeTable({
  path,
  comparisonId,
  chains,
  sources,
  programme,
  list,
  gone,
  guarded,
  work,
  onRemove,
}: {
  /** Address of this page. */
  path: string;
  /** Address of the comparison's routes. */
  comparisonId: string;
  chains: Chain[];
  sources: Source[];
  programme: TakesView['programme'];
  list: TakesView['takes'];
  /** Takes that were removed just now. */
  gone: readonly string[];
  /** Takes that open sittings ask about. */
  guarded: readonly string[];
  work: { subjectId: string; progress: number }[];
  onRemove: (takes: ShownTake[]) => void;
}) {
  const { send } = useSend();
  const { items, query, found, all, steps, byChain } = list;
  const go = useList(path, query, { sort: 'step', show: 'all', tab: 'files' });
  /** Chosen on any page, as they were seen last. */
  const [selected, setSelected] = useState<ReadonlyMap<string, ShownTake>>(new Map());
  const [playing, setPlaying] = useState<string | null>(null);
  /** What somebody wants to hear by name although a sitting asks about it. */
  const [wanted, setWanted] = useState<ShownTake | null>(null);
  const [accepting, setAccepting] = useState<{ take: ShownTake; check: string } | null>(null);
  const [splitting, setSplitting] = useState<ShownTake | null>(null);
  const audio = useRef<HTMLAudioElement | null>(null);
  useEffect(() => () => audio.current?.pause(), []);
  const chosen = [...selected.values()]
    .filter(({ id }) => !gone.includes(id))
    .map((take) => items.find(({ id }) => id === take.id) ?? take);
  const change = (ids: string[], what: Omit<TakesChange, 'takeIds'>) =>
    send(TAKES.change, { id: comparisonId }, { takeIds: ids, ...what });
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
    current.src = `/api/comparisons/${comparisonId}/takes/${take.id}/audio${shut ? INSIST : ''}`;
    current.onended = () => setPlaying(null);
    setPlaying(take.id);
    void current.play().catch(() => setPlaying(null));
  };
  const select = (takes: ShownTake[], on: boolean) =>
    setSelected((before) => {
      const next = new Map(before);
      for (const take of takes) {
        if (on) next.set(take.id, take);
        else next.delete(take.id);
      }
      return next;
    });
  const chosenIds = chosen.map(({ id }) => id);
  const dropped = (takeId: string, chainId: string | null) => {
    const ids = chosenIds.includes(takeId) ? chosenIds : [takeId];
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
      {all > 1 && <ChainShelf chains={chains} byChain={byChain} />}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 3, mt: 1 }}>
        {all > FEW && <SearchField q={query.q} onSearch={(q) => go({ q })} />}
        {all > 5 && (
          <TextField
            select
            label="Show"
            value={query.show}
            onChange={({ target }) => go({ show: target.value as TakesQuery['show'] })}
            sx={{ width: 260, mb: 2 }}
          >
            {SHOWN.map(([show, words]) => (
              <MenuItem key={show} value={show}>
                {words}
              </MenuItem>
            ))}
            {[...new Set([...steps, query.show])]
              .filter((id) => isStep(id))
              .map((id) => (
                <MenuItem key={id} value={id}>
                  {programmeLabel(id, '')}
                </MenuItem>
              ))}
          </TextField>
        )}
      </Box>
      {chosen.length > 0 && (
        <AssignBar
          chains={chains}
          sources={sources}
          takes={chosen}
          programme={programme}
          performances={list.lastPerformance}
          onChange={(what) => void change(chosenIds, what)}
          onRemove={() => onRemove(chosen)}
          onDone={() => setSelected(new Map())}
        />
      )}
      <Table aria-label="Takes">
        <TableHead>
          <TableRow>
            <TableCell padding="checkbox">
              <Checkbox
                slotProps={{ input: { 'aria-label': 'Choose all that are shown' } }}
                checked={items.length > 0 && items.every(({ id }) => selected.has(id))}
                onChange={(_, on) => select(items, on)}
              />
            </TableCell>
            <TableCell sx={{ width: '32%' }} sortDirection={query.sort === 'name' ? 'asc' : false}>
              <TableSortLabel
                active={query.sort === 'name'}
                direction="asc"
                onClick={() => go({ sort: query.sort === 'name' ? 'step' : 'name' })}
              >
                File
              </TableSortLabel>
            </TableCell>
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
            <TableCell sx={{ width: '25%', minWidth: 200 }}>Checks</TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {items.map((take) => (
            <TakeRow
              key={take.id}
              take={take}
              chains={chains}
              sources={sources}
              progress={work.find(({ subjectId }) => subjectId === take.id)?.progress ?? 0}
              several={take.several}
              playedOften={list.lastPerformance > 1}
              selected={selected.has(take.id)}
              playing={playing === take.id}
              onSelect={(on) => select([take], on)}
              onPlay={() => play(take)}
              onChange={(what) => void change([take.id], what)}
              onPick={() => void send(TAKES.pick, { id: comparisonId, takeId: take.id })}
              onAccept={(check) => setAccepting({ take, check })}
              onSplit={() => setSplitting(take)}
              onRemove={() => onRemove([take])}
            />
          ))}
        </TableBody>
      </Table>
      {found === 0 && (
        <Typography sx={{ py: 2 }}>
          No take is like that.{' '}
          <Link underline="always" component={NextLink} href={path}>
            Show all
          </Link>
        </Typography>
      )}
      <ListPages found={found} page={query.page} onPage={(page) => go({ page })} />
      {accepting && (
        <OverrideDialog
          take={accepting.take}
          check={accepting.check}
          ids={{ id: comparisonId, takeId: accepting.take.id }}
          onClose={() => setAccepting(null)}
        />
      )}
      {splitting && (
        <ChannelDialog
          take={splitting}
          chains={chains}
          ids={{ id: comparisonId, takeId: splitting.id }}
          onClose={() => setSplitting(null)}
        />
      )}
    </DragDropProvider>
  );
}

'use client';

import ContentCopyIcon from '@mui/icons-material/ContentCopyOutlined';
import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import EditOutlinedIcon from '@mui/icons-material/EditOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Typography from '@mui/material/Typography';
import Link from '@mui/material/Link';
import { useState } from 'react';
import { type Chain, pairWords, variantWords } from '@/steps/chains/schema';
import type { ChainsView, PlannedChainView } from '@/steps/chains/service';
import { DataTable } from '@/ui/DataTable';
import { countWord, level, money } from '@/ui/format';
import { NextLink } from '@/ui/NextLink';
import { Note, PageHeading } from '@/ui/Sheet';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { useUndo } from '@/ui/useUndo';
import { ChainDialog } from './ChainDialog';
import { FairnessPanel } from './FairnessPanel';
import { GridDialog } from './GridDialog';
import { LadderPanel } from './LadderPanel';
import { ReferencePanel } from './ReferencePanel';
import { CHAINS } from '@/steps/chains/endpoints';
import { WideTable } from '@/ui/WideTable';

function contents({ chain, cost }: PlannedChainView, nameOf: (id: string) => string): string {
  if (chain.shape.kind === 'variant') {
    return `variant of ${nameOf(chain.shape.ofChainId)}: ${variantWords(chain.shape, nameOf)}`;
  }
  if (!cost) return chain.items || '–';
  const items = cost.lines.filter(({ accessoryOf }) => accessoryOf === null);
  const more = cost.lines.filter(({ accessoryOf }) => accessoryOf !== null);
  const shape =
    chain.shape.kind === 'pair'
      ? `${pairWords(chain.shape)}; `
      : chain.shape.kind === 'blend'
        ? `with ${nameOf(chain.shape.otherChainId)} at ${level(chain.shape.otherDb, 1)} dB; `
        : '';
  const names = items.map(({ name }) => name).join(', ');
  return `${shape}${names}${more.length > 0 ? `; with ${more.map(({ name }) => name).join(', ')}` : ''}`;
}

/** Whether the set works, as the heading says it. */
function headline(chains: readonly PlannedChainView[]): string {
  if (chains.length === 0) return 'No chain named yet';
  const count = countWord(chains.length, 'chain');
  const bad = chains.filter(({ feasible }) => !feasible);
  if (bad.length === 1) return `${count}; ${bad[0]!.chain.name} does not work out`;
  if (bad.length > 1) return `${count}; ${bad.length} do not work out`;
  return `${count} to compare`;
}

export function ChainsScreen({ comparisonId, view }: { comparisonId: string; view: ChainsView }) {
  const { send } = useSend();
  const offerUndo = useUndo();
  // By id, so that a version that came meanwhile is the one that is written over, knowingly.
  const [editing, setEditing] = useState<string | null>(null);
  const [copied, setCopied] = useState<string | null>(null);
  const [making, setMaking] = useState(false);
  const { chains } = view;
  const nameOf = (id: string) => chains.find(({ chain }) => chain.id === id)?.chain.name ?? '';
  const remove = async ({ id, name }: Chain) => {
    if (!(await send(CHAINS.remove, { id: comparisonId, chainId: id }))) return;
    offerUndo(`${name} is removed; its take stays, without a chain.`, (again) =>
      again(CHAINS.restore, { id: comparisonId, chainId: id }),
    );
  };
  return (
    <>
      <PageHeading
        finding={headline(chains)}
        aside="A chain is everything from the microphone to the converter, under one name and one price."
        action={
          <>
            <Button variant="outlined" onClick={() => setMaking(true)}>
              Make a grid
            </Button>
            <Button variant="contained" onClick={() => setEditing('new')}>
              Add a chain
            </Button>
          </>
        }
      />
      {chains.map(
        ({ chain, stop }) =>
          stop && (
            <Note key={chain.id} kind="problem">
              {stop}
            </Note>
          ),
      )}
      {chains.length === 0 ? (
        <Typography sx={{ maxWidth: '60ch' }}>
          Name at least two. The strongest comparisons change one link at a time: the same preamp
          with another microphone, or every microphone with every preamp.{' '}
          <Link component={NextLink} underline="always" href="/decisions/shortest">
            See which did well on voices like it
          </Link>
        </Typography>
      ) : (
        <WideTable label="Chains">
          <DataTable
            wide
            label="Chains"
            size="medium"
            rows={chains}
            keyOf={({ chain }) => chain.id}
            columns={[
              {
                label: 'Chain',
                by: ({ chain }) => chain.name,
                sx: { fontWeight: 600, minWidth: 130 },
                cell: ({ chain, isReference }) => (
                  <>
                    {chain.name}
                    {isReference && (
                      <Box
                        component="span"
                        sx={{ display: 'block', fontWeight: 400, color: token('pen') }}
                      >
                        reference
                      </Box>
                    )}
                  </>
                ),
              },
              {
                label: 'What is in it',
                sx: { color: token('soft') },
                cell: (one) => contents(one, nameOf),
              },
              {
                label: 'Does it reach level?',
                sxOf: ({ feasible }) => ({ color: token(feasible ? 'ink' : 'red'), minWidth: 150 }),
                cell: ({ finding }) => finding ?? 'not known: no gear named',
              },
              {
                label: 'Noise, dBA*',
                right: true,
                by: ({ ladder }) => ladder?.matchedNoiseDba,
                cell: ({ ladder }) => level(ladder?.matchedNoiseDba, 1),
              },
              {
                label: 'Price in all',
                right: true,
                by: ({ totalCents }) => totalCents,
                cell: ({ cost, totalCents, bracket }) => (
                  <>
                    {cost && cost.unpriced.length > 0 && 'at least '}
                    {money(totalCents)}
                    <Box
                      component="span"
                      sx={{ display: 'block', color: token('soft'), fontSize: '0.75rem' }}
                    >
                      {bracket}
                    </Box>
                  </>
                ),
              },
              {
                label: '',
                id: 'actions',
                right: true,
                sx: { whiteSpace: 'nowrap' },
                cell: ({ chain }) => (
                  <>
                    {chain.shape.kind === 'variant' ? (
                      <Button
                        component={NextLink}
                        href={`/comparisons/${comparisonId}/match`}
                        size="small"
                      >
                        Edit at Match
                      </Button>
                    ) : (
                      <>
                        <IconButton
                          size="small"
                          aria-label={`Change ${chain.name}`}
                          onClick={() => setEditing(chain.id)}
                        >
                          <EditOutlinedIcon fontSize="small" />
                        </IconButton>
                        <IconButton
                          size="small"
                          aria-label={`Copy ${chain.name}`}
                          onClick={() => setCopied(chain.id)}
                        >
                          <ContentCopyIcon fontSize="small" />
                        </IconButton>
                      </>
                    )}
                    <IconButton
                      size="small"
                      aria-label={`Remove ${chain.name}`}
                      onClick={() => void remove(chain)}
                    >
                      <DeleteOutlineIcon fontSize="small" />
                    </IconButton>
                  </>
                ),
              },
            ]}
          />
          <Typography sx={{ color: token('soft'), fontSize: '0.8125rem', mt: 1 }}>
            * At matched loudness: as if the source stood 1 m away. What a quiet or distant chain
            gets as make-up gain lifts its noise as well.
          </Typography>
        </WideTable>
      )}
      {chains.length > 1 && <FairnessPanel view={view} />}
      <LadderPanel view={view} />
      {chains.length > 0 && <ReferencePanel comparisonId={comparisonId} view={view} />}
      {editing && (
        <ChainDialog
          comparisonId={comparisonId}
          chain={chains.find(({ chain }) => chain.id === editing)?.chain ?? null}
          view={view}
          onClose={() => setEditing(null)}
        />
      )}
      {copied && (
        <ChainDialog
          comparisonId={comparisonId}
          chain={null}
          like={chains.find(({ chain }) => chain.id === copied)?.chain}
          view={view}
          onClose={() => setCopied(null)}
        />
      )}
      {making && (
        <GridDialog comparisonId={comparisonId} gear={view.gear} onClose={() => setMaking(false)} />
      )}
    </>
  );
}

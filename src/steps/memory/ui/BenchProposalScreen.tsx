'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import type { RememberedChain } from '@/core/memory/shortest-bench';
import type { BenchProposal } from '@/steps/memory/service';
import { DataTable } from '@/ui/DataTable';
import { countWord, money } from '@/ui/format';
import { SearchField } from '@/ui/lists';
import { NextLink } from '@/ui/NextLink';
import { MarginNote, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';
import { token } from '@/ui/tokens';
import { benchFinding, reasonsOf } from './bench-words';

const PATH = '/decisions/shortest';
const ORDER = ['first', 'second', 'third'];
const soft = { color: token('soft'), fontSize: '0.8125rem' } as const;

function Chains({ proposal }: { proposal: BenchProposal }) {
  const { picks, wildcard } = proposal;
  const rows: { as: string; chain: RememberedChain }[] = [
    ...picks.map((chain, i) => ({ as: ORDER[i] ?? '', chain })),
    ...(wildcard ? [{ as: 'the cheap one', chain: wildcard }] : []),
  ];
  if (rows.length === 0) return null;
  return (
    <DataTable
      label="Chains to record"
      size="medium"
      rows={rows}
      keyOf={({ chain }) => chain.key}
      columns={[
        {
          label: 'Chain',
          names: true,
          sx: { verticalAlign: 'top' },
          cell: ({ as, chain }) => (
            <>
              {chain.name}
              <Box sx={soft}>{as}</Box>
            </>
          ),
        },
        {
          label: 'How it did',
          sx: { verticalAlign: 'top' },
          cell: ({ chain }) => (
            <>
              {reasonsOf(chain).here}
              <Box sx={soft}>elsewhere: {reasonsOf(chain).elsewhere}</Box>
            </>
          ),
        },
        {
          label: 'Price in all',
          right: true,
          sx: { whiteSpace: 'nowrap', verticalAlign: 'top' },
          cell: ({ chain }) => (chain.priceCents === null ? 'not known' : money(chain.priceCents)),
        },
      ]}
    />
  );
}

/** The fewest chains worth recording for a voice, from all that panels heard before. */
export function BenchProposalScreen({
  name,
  q,
  proposal,
}: {
  name: string;
  q: string;
  proposal: BenchProposal | null;
}) {
  const router = useRouter();
  const twins = proposal?.twins ?? [];
  return (
    <StudioFrame
      name={name}
      margin={
        <>
          <MarginNote title="How they are chosen">
            First those that led in most places like it; between equal ones by how often they won
            alone, how seldom they were behind, how often they led elsewhere, how seldom they were
            behind there, then the cheaper. Each figure decides only where those before it are the
            same; nothing is weighed.
          </MarginNote>
          <MarginNote title="The cheap one">
            Costs less than each of the others, and was never shown behind in such a place. It may
            surprise; nothing speaks for it but its price.
          </MarginNote>
          <MarginNote title="What it cannot know">
            Other listeners, takes and rooms. What was heard with names told or under a broken seal
            is left out.
          </MarginNote>
          {proposal?.simulated && (
            <MarginNote title="Simulated">
              Some of these places are of simulated listeners; nobody heard anything there.
            </MarginNote>
          )}
        </>
      }
    >
      <PageHeading
        finding={proposal ? benchFinding(q, proposal) : 'Which chains shall be recorded?'}
        aside={
          proposal
            ? `From ${countWord(proposal.places, 'place').toLowerCase()} like it that panels heard.`
            : 'Write the voice or instrument, and what it does: “contralto quiet”.'
        }
        action={
          <Link component={NextLink} href="/decisions/heard">
            What panels heard
          </Link>
        }
      />
      <SearchField
        q={q}
        onSearch={(wanted) => router.push(`${PATH}?q=${encodeURIComponent(wanted)}`)}
      />
      {proposal && proposal.places === 0 && (
        <Typography sx={{ mb: 2, maxWidth: '60ch' }}>
          No panel heard a place with all these words. What follows rests on other places alone; try
          fewer words.
        </Typography>
      )}
      {proposal && <Chains proposal={proposal} />}
      {twins.map(({ chain, of, apartDb }) => (
        <Box key={chain.key} sx={{ ...soft, mt: 1 }}>
          {chain.name} is passed over: in the same performance its spectrum is within{' '}
          {Math.max(apartDb, 0.1).toFixed(1)} dB of that of {of.name}.
        </Box>
      ))}
    </StudioFrame>
  );
}

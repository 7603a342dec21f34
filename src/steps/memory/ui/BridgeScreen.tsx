'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import type { BridgeView } from '@/steps/memory/bridge';
import { AgainstReference } from '@/steps/results/ui/AgainstReference';
import { countWord } from '@/ui/format';
import { NextLink } from '@/ui/NextLink';
import { MarginNote, Note, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';

const PATH = '/decisions/bridge';

function Bridged({ through, bridged }: BridgeView) {
  if (!through || !bridged) return null;
  const { read, says, cautions, sittings } = bridged;
  return (
    <>
      {cautions.map((sentence) => (
        <Note key={sentence} kind="caution">
          {sentence}
        </Note>
      ))}
      <Box component="ul" sx={{ pl: 2.5, my: 1 }}>
        {says.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </Box>
      <AgainstReference read={read} reference={read.bridge.reference} />
      <Typography variant="h2" sx={{ mt: 3 }}>
        Read together
      </Typography>
      {sittings.map(({ id, comparisonId, title }) => (
        <Box key={id} sx={{ py: 0.5 }}>
          <Link
            component={NextLink}
            underline="always"
            href={`/comparisons/${comparisonId}/results?sitting=${id}`}
          >
            {title}
          </Link>
        </Box>
      ))}
    </>
  );
}

/** Comparisons set against each other through a chain that all of them heard. */
export function BridgeScreen({ name, view }: { name: string; view: BridgeView }) {
  const router = useRouter();
  const { links, through, refusal, bridged } = view;
  return (
    <StudioFrame
      name={name}
      margin={
        <>
          <MarginNote title="What links them">
            Chains made of the same gear are taken for one. Each chain is set against the link
            within its own sitting; so chains that never met can be read beside each other.
          </MarginNote>
          <MarginNote title="What it does not show">
            Other voices, takes and listeners than those who heard. It was put together afterwards,
            so it describes; each sitting keeps its own result. Names told or seals broken are left
            out.
          </MarginNote>
          {bridged && (
            <MarginNote title="How">
              One model of all choices, with the listener as the unit; 50 is level with the link.
              Points: each listener’s place less their place for it. {bridged.listeners} listeners,
              whoever took part in several counted once. 95 % intervals, each by itself.
            </MarginNote>
          )}
        </>
      }
    >
      <PageHeading
        finding={
          bridged && through
            ? `${countWord(bridged.sittings.length, 'sitting')}, set against ${through.chain}`
            : 'Nothing to set against each other yet'
        }
        aside="From comparison to comparison, through a chain that all of them heard."
        action={
          <Link component={NextLink} href="/decisions/heard">
            What panels heard
          </Link>
        }
      />
      {through && links.length > 0 && (
        <TextField
          select
          label="Set against"
          value={through.chainId}
          onChange={({ target }) => router.push(`${PATH}?through=${target.value}`)}
          sx={{ maxWidth: 480, mb: 1 }}
        >
          {links.map(({ chainId, chain, comparisons }) => (
            <MenuItem key={chainId} value={chainId}>
              {chain}, heard in {comparisons} comparisons
            </MenuItem>
          ))}
        </TextField>
      )}
      {refusal && <Typography sx={{ maxWidth: '68ch' }}>{refusal}</Typography>}
      <Bridged {...view} />
    </StudioFrame>
  );
}

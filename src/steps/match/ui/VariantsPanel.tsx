'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { CHAINS } from '@/steps/chains/endpoints';
import { type Chain, isVariant, variantWords } from '@/steps/chains/schema';
import type { ShownTake } from '@/steps/takes/schema';
import { countWord } from '@/ui/format';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { useUndo } from '@/ui/useUndo';
import { VariantDialog } from './VariantDialog';

/** Variants of the chains: what is heard beside them, processed or of another take. */
export function VariantsPanel({
  comparisonId,
  chains,
  takes,
  without,
  urlOf,
}: {
  comparisonId: string;
  chains: readonly Chain[];
  /** Takes of the passage's source, of whatever step. */
  takes: readonly ShownTake[];
  /** Whether a chain has no take for this passage. */
  without: (chainId: string) => boolean;
  urlOf: (chainId: string) => string | null;
}) {
  const { send } = useSend();
  const offerUndo = useUndo();
  const [editing, setEditing] = useState<string | null>(null);
  const variants = chains.filter(isVariant);
  const nameOf = (id: string) => chains.find((chain) => chain.id === id)?.name ?? '';
  const remove = async ({ id, name }: Chain) => {
    if (!(await send(CHAINS.remove, { id: comparisonId, chainId: id }))) return;
    offerUndo(`${name} is removed.`, (again) =>
      again(CHAINS.restore, { id: comparisonId, chainId: id }),
    );
  };
  return (
    <Box component="details" sx={{ mb: 2 }}>
      <Box component="summary" sx={{ cursor: 'pointer', color: token('pen') }}>
        {variants.length === 0
          ? 'Variants: the same chain processed, or another take of it'
          : countWord(variants.length, 'variant')}
      </Box>
      <Box component="ul" aria-label="Variants" sx={{ listStyle: 'none', p: 0, my: 1 }}>
        {variants.map((chain) => (
          <Box
            component="li"
            key={chain.id}
            sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 1.5, alignItems: 'baseline' }}
          >
            <Typography sx={{ fontWeight: 600 }}>{chain.name}</Typography>
            <Typography sx={{ color: token('soft'), fontSize: '0.875rem' }}>
              of {nameOf(chain.shape.ofChainId)}: {variantWords(chain.shape, nameOf)}
              {without(chain.id) && '; has no take for this passage'}
            </Typography>
            <Button
              size="small"
              aria-label={`Edit ${chain.name}`}
              onClick={() => setEditing(chain.id)}
            >
              Edit
            </Button>
            <Button
              size="small"
              aria-label={`Delete ${chain.name}`}
              onClick={() => void remove(chain)}
            >
              Delete
            </Button>
          </Box>
        ))}
      </Box>
      <Button size="small" variant="outlined" onClick={() => setEditing('new')}>
        Add a variant
      </Button>
      {editing && (
        <VariantDialog
          comparisonId={comparisonId}
          variant={variants.find(({ id }) => id === editing) ?? null}
          chains={chains.filter((chain) => !isVariant(chain))}
          takes={takes}
          urlOf={urlOf}
          onClose={() => setEditing(null)}
        />
      )}
    </Box>
  );
}

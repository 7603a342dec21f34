'use client';

import Button from '@mui/material/Button';
import { TAKES } from '@/steps/takes/endpoints';
import type { TakesView } from '@/steps/takes/takes-view';
import { countWord } from '@/ui/format';
import { Note } from '@/ui/Sheet';
import { useSend } from '@/ui/useSend';

const SHOWN = 8;

/** Offers chains for files that belong to none, by their names. */
export function ChainsOfNames({
  comparisonId,
  proposals,
}: {
  comparisonId: string;
  proposals: TakesView['proposedChains'];
}) {
  const { send, busy } = useSend();
  const files = proposals.reduce((sum, one) => sum + one.files, 0);
  const fresh = proposals.filter((one) => one.fresh);
  const names = (fresh.length > 0 ? fresh : proposals).map(({ name }) => `“${name}”`);
  const more = names.length - SHOWN;
  const listed = `${names.slice(0, SHOWN).join(', ')}${more > 0 ? ` and ${more} more` : ''}`;
  return (
    <Note kind="plain">
      {countWord(files, 'file')} without a chain;{' '}
      {files === 1 ? 'its name speaks of' : 'their names speak of'} {listed}. That is a guess: each
      can be corrected.{' '}
      <Button
        size="small"
        disabled={busy}
        onClick={() => void send(TAKES.makeChains, { id: comparisonId })}
      >
        {fresh.length > 0 ? 'Make chains from these names' : 'Give them to these chains'}
      </Button>
    </Note>
  );
}

import Typography from '@mui/material/Typography';
import { DataTable } from '@/ui/DataTable';
import { countWord } from '@/ui/format';
import { Method } from '../sections/cells';
import type { Fold, FoldProps } from './fold';

const TEXT = { maxWidth: '76ch', mt: 0.75 };

function Without({ result: { second } }: FoldProps) {
  if (!second) return null;
  const { rule, aside, empty, differing } = second;
  const otherwise = differing.filter(({ figuresOnly }) => !figuresOnly);
  const moved = differing.filter(({ figuresOnly }) => figuresOnly);
  return (
    <>
      <Typography sx={TEXT}>
        Sealed with the plan: everything is read once more without whoever {rule}.{' '}
        {aside.length === 0 && 'Nobody did.'}
        {empty && 'That is everybody who answered, so nothing is left to read.'}
      </Typography>
      {aside.length > 0 && (
        <DataTable
          label="Set aside"
          sx={{ maxWidth: 620, mt: 1 }}
          rows={aside}
          keyOf={({ listener }) => listener}
          columns={[
            { label: 'Listener', cell: ({ listener }) => listener, names: true },
            { label: 'Why', cell: ({ grounds }) => grounds.join('; ') },
          ]}
        />
      )}
      {otherwise.length > 0 && (
        <DataTable
          label="What reads otherwise"
          sx={{ mt: 2 }}
          rows={otherwise}
          keyOf={({ of }) => of}
          columns={[
            { label: 'Of', cell: ({ of }) => of, names: true },
            { label: 'Everybody', cell: ({ everybody }) => everybody },
            { label: 'Without them', cell: ({ without }) => without },
          ]}
        />
      )}
      {aside.length > 0 && !empty && (
        <Typography sx={TEXT}>
          {otherwise.length === 0
            ? 'Every answer and every part reads the same without them'
            : 'All else reads the same without them'}
          {moved.length > 0 && ', with fewer answers and so with other figures'}.
        </Typography>
      )}
      <Method>
        The headlines are of everybody; this reading stands beside them and never in their place.
        The rule was fixed before anybody listened: one made afterwards could be chosen for what it
        brings.
      </Method>
    </>
  );
}

export const without: Fold = {
  id: 'without',
  title({ result: { second } }) {
    if (!second) return null;
    const { aside, empty, differing } = second;
    if (aside.length === 0) return 'Set aside: nobody';
    const who = countWord(aside.length, 'listener').toLowerCase();
    if (empty) return `Set aside: all ${aside.length}`;
    const otherwise = differing.filter(({ figuresOnly }) => !figuresOnly).length;
    return otherwise === 0
      ? `Without ${who}: the same`
      : `Without ${who}: ${countWord(otherwise, 'differs', 'differ').toLowerCase()}`;
  },
  View: Without,
};

import Typography from '@mui/material/Typography';
import { shareAgainstAverage } from '@/core/statistics/pair/findings';
import type { Bridged } from '@/core/statistics/reading/bridge';
import type { Together } from '@/core/statistics/reading/together';
import { CsvButton } from '@/ui/CsvButton';
import { type Column, DataTable } from '@/ui/DataTable';
import { signed } from '@/ui/format';
import { WideTable } from '@/ui/WideTable';

const UNITS = {
  pair: {
    title: 'Chosen against it, of 100',
    of: (difference: number) => (100 * shareAgainstAverage(difference)).toFixed(0),
  },
  rating: {
    title: 'Placed against it, points',
    of: (difference: number) => signed(difference, 1, '').trim(),
  },
} as const;
type Kind = keyof typeof UNITS;

interface AgainstProps {
  /** By name. */
  read: Together;
  reference: string;
}

/** One kind of answer: each chain against the reference, over all sittings and in each. */
function Against({ read, reference, kind }: AgainstProps & { kind: Kind }) {
  const { bridge, each } = read;
  const all: readonly Bridged[] = bridge[kind]?.chains ?? [];
  if (all.length === 0) return null;
  const { title, of } = UNITS[kind];
  const shown = (one: Bridged | undefined) => (one ? of(one.difference) : '–');
  const range = ({ ci95 }: Bridged) => (ci95 ? `${of(ci95[0])} to ${of(ci95[1])}` : '–');
  const rows = [...all].sort((x, y) => y.difference - x.difference);
  const inSitting = (chain: string, own: (typeof each)[number]) =>
    own[kind]?.find((one) => one.chain === chain);
  return (
    <>
      <Typography variant="h2" sx={{ mt: 3 }}>
        {title}
      </Typography>
      <WideTable label={title}>
        <DataTable
          label={title}
          sx={{ maxWidth: 900 }}
          rows={rows}
          keyOf={({ chain }) => chain}
          columns={[
            { label: 'Chain', cell: ({ chain }) => chain },
            { label: 'All together', cell: shown, right: true },
            { label: '95 %', cell: range, right: true, sx: { whiteSpace: 'nowrap' } },
            ...each.map((own): Column<(typeof rows)[number]> => ({
              label: own.sitting,
              id: `in ${own.sitting}`,
              cell: ({ chain }) => shown(inSitting(chain, own)),
              right: true,
            })),
          ]}
        />
      </WideTable>
      <CsvButton
        fileName={`together-${kind}.csv`}
        rows={rows.map((row) => ({
          chain: row.chain,
          reference,
          difference: row.difference,
          from: row.ci95?.[0] ?? null,
          to: row.ci95?.[1] ?? null,
          ...Object.fromEntries(
            each.map((own) => [own.sitting, inSitting(row.chain, own)?.difference ?? null]),
          ),
        }))}
      />
    </>
  );
}

/** Each chain against the one that links the sittings, by each kind of answer, and what nothing links. */
export function AgainstReference({ read, reference }: AgainstProps) {
  const unlinked = read.bridge.rating?.unlinked ?? [];
  return (
    <>
      <Against read={read} reference={reference} kind="pair" />
      <Against read={read} reference={reference} kind="rating" />
      {unlinked.length > 0 && (
        <Typography sx={{ mt: 1 }}>
          Never placed beside {reference}, and so left out: {unlinked.join(', ')}.
        </Typography>
      )}
    </>
  );
}

import Box from '@mui/material/Box';
import type { DecisionView } from '@/steps/decision/service';
import { DataTable } from '@/ui/DataTable';
import { level, signed } from '@/ui/format';
import { token } from '@/ui/tokens';
import { gainText } from './words';

/** What is known of each chain by measuring and by data sheets, beside all opinion. */
export function Measured({ view: { chains, measured } }: { view: DecisionView }) {
  const rows = measured.flatMap((own) => {
    const facts = chains.find(({ name }) => name === own.chain)?.facts;
    return facts ? [{ ...own, facts }] : [];
  });
  return (
    <>
      <DataTable
        label="What was measured"
        wide
        rows={rows}
        keyOf={({ chain }) => chain}
        columns={[
          { label: 'Chain', names: true, cell: ({ chain }) => chain },
          {
            label: 'Noise by data sheet',
            right: true,
            cell: ({ facts }) => level(facts.noiseDba, 1, 'dBA'),
          },
          {
            label: 'Its own noise',
            right: true,
            cell: ({ ownNoiseDb }) => level(ownNoiseDb, 1, 'dBFS'),
          },
          {
            label: 'Noise in the room',
            right: true,
            cell: ({ roomNoiseDb }) => level(roomNoiseDb, 1, 'dBFS'),
          },
          { label: 'Gain needed', right: true, cell: ({ facts }) => gainText(facts) },
          {
            label: 'What changes the level',
            cell: ({ changes }) =>
              changes.length === 0
                ? '–'
                : changes.map(({ what, db }) => (
                    <Box key={what}>
                      {what}: {signed(db, 1, 'dB')}
                    </Box>
                  )),
          },
          {
            label: 'Weight',
            cell: ({ weights }) => (weights.length === 0 ? '–' : weights.join(', ')),
          },
        ]}
      />
      <Box sx={{ color: token('soft'), fontSize: '0.8125rem', mt: 0.5 }}>
        Noise A-weighted, at the gain that makes all equally loud: by data sheet, and as a resistor
        and silence in the room were recorded. Weight is an attribute of the gear list, “weight: 350
        g”.
      </Box>
    </>
  );
}

import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import type { LockedVersion } from '@/steps/decision/service';
import { placedText } from '@/steps/results/ui/placed-text';
import { money } from '@/ui/format';
import { DecisionRecord } from './DecisionRecord';

/** A value and its interval: a narrow column breaks between them, not within. */
function brokenOnce(text: string): string {
  const [value, ...interval] = text.split(' ');
  return [value, interval.join('\u00a0')].join(' ');
}

/** A locked decision for paper: its words, and what lay on the table when it was locked. */
export function DecisionPage({
  comparisonId,
  version,
}: {
  comparisonId: string;
  version: LockedVersion;
}) {
  const { chains, finding } = version.record.evidence;
  const places = [...new Set(chains.flatMap(({ heard }) => heard.map(({ place }) => place)))];
  return (
    <>
      <DecisionRecord comparisonId={comparisonId} version={version} />
      <Typography variant="h2" sx={{ mt: 2, mb: 0.5 }}>
        What lay on the table
      </Typography>
      <Typography>{finding}</Typography>
      <Table size="small" aria-label="What lay on the table">
        <TableHead>
          <TableRow>
            <TableCell>Chain</TableCell>
            {places.map((place) => (
              <TableCell key={place} align="right">
                {place || 'heard blind'}
              </TableCell>
            ))}
            <TableCell align="right">Marks, weighed</TableCell>
            <TableCell>Must-haves</TableCell>
            <TableCell align="right">To buy</TableCell>
            <TableCell align="right">In all</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {chains.map((chain) => {
            const failed = chain.mustHaves.filter(({ verdict }) => verdict === 'fail');
            return (
              <TableRow key={chain.id}>
                <TableCell component="th" scope="row" sx={{ minWidth: 120 }}>
                  {chain.name}
                </TableCell>
                {places.map((place) => {
                  const own = chain.heard.find((one) => one.place === place);
                  return (
                    <TableCell key={place} align="right" sx={{ whiteSpace: 'normal' }}>
                      {own ? brokenOnce(placedText(own, own.unit)) : '–'}
                    </TableCell>
                  );
                })}
                <TableCell align="right">{chain.score?.toFixed(1) ?? '–'}</TableCell>
                <TableCell>
                  {failed.length > 0
                    ? `out: ${failed.map(({ text }) => text).join('; ')}`
                    : 'none failed'}
                </TableCell>
                <TableCell align="right">{money(chain.toBuyCents)}</TableCell>
                <TableCell align="right">{money(chain.allCents)}</TableCell>
              </TableRow>
            );
          })}
        </TableBody>
      </Table>
    </>
  );
}

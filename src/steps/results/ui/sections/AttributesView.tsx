'use client';

import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { ALPHA } from '@/core/statistics/words';
import { WideTable } from '@/ui/WideTable';
import { Method, pCell } from './cells';
import type { ViewProps } from './view';

export function AttributesView({
  results: { attributes: words },
  chains: all,
  claimed,
}: ViewProps) {
  if (words.length === 0) return null;
  const chains = all.filter((chain) => chain in words[0]!.counts);
  const rows = [...words].sort((x, y) => (x.p ?? 1) - (y.p ?? 1));
  return (
    <>
      <WideTable label="Words">
        <Table size="small" aria-label="Words">
          <TableHead>
            <TableRow>
              <TableCell>Word</TableCell>
              {chains.map((chain) => (
                <TableCell key={chain} align="right">
                  {chain}
                </TableCell>
              ))}
              <TableCell align="right">p, Holm</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {rows.map(({ word, counts, pHolm }) => (
              <TableRow key={word}>
                <TableCell
                  sx={{ fontWeight: claimed && pHolm !== null && pHolm < ALPHA ? 600 : 400 }}
                >
                  {word}
                </TableCell>
                {chains.map((chain) => (
                  <TableCell key={chain} align="right">
                    {counts[chain]}
                  </TableCell>
                ))}
                <TableCell align="right">{pCell(pHolm)}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </WideTable>
      <Method>
        How often each word was ticked for each chain. Cochran’s test per word over the listeners
        who described every chain, corrected for {words.length} words (Holm).
      </Method>
    </>
  );
}

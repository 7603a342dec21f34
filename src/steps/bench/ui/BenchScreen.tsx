'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { useSnackbar } from 'notistack';
import { useMemo, useState } from 'react';
import { faultOf, TOOLS } from '@/steps/bench/tools';
import { readNumber } from '@/core/text/numbers';
import { rewriteQuery } from '@/ui/address';
import { CsvButton } from '@/ui/CsvButton';
import { NextLink } from '@/ui/NextLink';
import { MarginNote, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';
import { FACES, token } from '@/ui/tokens';

const BenchChart = dynamic(() => import('./BenchChart'), { ssr: false });

/** Calculators on the core. What stands in the fields is in the address, so that it can be shared. */
export function BenchScreen({
  name,
  toolId,
  given,
}: {
  name: string;
  toolId: string;
  given: Record<string, string>;
}) {
  const { enqueueSnackbar } = useSnackbar();
  const tool = TOOLS.find(({ id }) => id === toolId) ?? TOOLS[0]!;
  const [texts, setTexts] = useState<Record<string, string>>(() =>
    Object.fromEntries(tool.fields.map(({ name: field, usual }) => [field, given[field] ?? usual])),
  );
  const faults = new Map(
    tool.fields.flatMap((field) => {
      const fault = faultOf(field, texts[field.name]!);
      return fault ? [[field.name, fault] as const] : [];
    }),
  );
  const sound = faults.size === 0;
  const answer = useMemo(
    () =>
      sound
        ? tool.answer(
            (field) => readNumber(texts[field]!) ?? 0,
            (field) => texts[field]!,
          )
        : null,
    [sound, tool, texts],
  );
  const showInAddress = (fields: Record<string, string>) =>
    rewriteQuery(new URLSearchParams({ tool: tool.id, ...fields }));
  const set = (field: string, text: string) => {
    const now = { ...texts, [field]: text };
    setTexts(now);
    showInAddress(now);
  };
  const share = async () => {
    // Before anything was typed, and after a link to this very tool, the address does not hold them.
    showInAddress(texts);
    await navigator.clipboard.writeText(window.location.href).then(
      () => enqueueSnackbar('The address is copied; it holds what stands in the fields.'),
      () => enqueueSnackbar('Copying is not allowed here; the address line holds it.'),
    );
  };
  return (
    <StudioFrame
      name={name}
      margin={
        <MarginNote title="Bench tools">
          <Box component="nav" aria-label="Bench tools">
            {TOOLS.map(({ id, title }) => (
              <Box key={id} sx={{ mt: 0.75 }}>
                <Link
                  component={NextLink}
                  href={`/bench?tool=${id}`}
                  aria-current={id === tool.id ? 'page' : undefined}
                  sx={{ fontWeight: id === tool.id ? 600 : 400, color: token('ink') }}
                >
                  {title}
                </Link>
              </Box>
            ))}
          </Box>
        </MarginNote>
      }
    >
      <PageHeading
        finding={answer?.finding ?? 'Something in the fields cannot be read'}
        aside={tool.about}
        action={
          <Button variant="outlined" onClick={() => void share()}>
            Copy the address
          </Button>
        }
      />
      <Box
        sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: 'repeat(3, 1fr)' }, gap: 2 }}
      >
        {tool.fields.map((field) => (
          <TextField
            key={field.name}
            label={field.label}
            select={Boolean(field.choices)}
            multiline={field.lines}
            sx={field.lines ? { gridColumn: { sm: 'span 2' } } : undefined}
            value={texts[field.name]}
            onChange={(event) => set(field.name, event.target.value)}
            error={faults.has(field.name)}
            helperText={faults.get(field.name)}
          >
            {field.choices?.map((choice) => (
              <MenuItem key={choice} value={choice}>
                {choice}
              </MenuItem>
            ))}
          </TextField>
        ))}
      </Box>
      {answer && (
        <Box sx={{ display: 'grid', gridTemplateColumns: { md: '1fr 320px' }, gap: 3, mt: 3 }}>
          <Box sx={{ minWidth: 0 }}>
            <BenchChart figure={answer.figure} label={answer.finding} />
            <CsvButton
              fileName={`${tool.id}.csv`}
              rows={answer.figure.curves.flatMap(({ name: curve, points }) =>
                points.map(([x, y]) => ({ curve, x: answer.figure.categories?.[x] ?? x, y })),
              )}
            />
          </Box>
          <Box>
            <Table size="small" aria-label={tool.title}>
              <TableBody>
                {answer.lines.map(([label, value]) => (
                  <TableRow key={label}>
                    <TableCell>{label}</TableCell>
                    <TableCell align="right" sx={{ whiteSpace: 'normal !important' }}>
                      {value}
                    </TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
          </Box>
        </Box>
      )}
      <Typography variant="h2" sx={{ mt: 3 }}>
        By which formula
      </Typography>
      {tool.formulas.map((formula) => (
        <Box
          key={formula}
          sx={{ fontFamily: FACES.mono, fontSize: '0.8125rem', mt: 0.75, color: token('soft') }}
        >
          {formula}
        </Box>
      ))}
    </StudioFrame>
  );
}

'use client';

import Button from '@mui/material/Button';
import Papa from 'papaparse';
import { FORMULA } from '@/core/text/formulae';

interface Data {
  fileName: string;
  rows: Record<string, string | number | null>[];
}

function save(text: string, type: string, fileName: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = fileName;
  link.click();
  URL.revokeObjectURL(url);
}

/** The data behind a chart or table, as a file. */
export function CsvButton({ fileName, rows, label = 'Data as CSV' }: Data & { label?: string }) {
  const text = () => `${Papa.unparse(rows, { newline: '\r\n', escapeFormulae: FORMULA })}\r\n`;
  return (
    <Button
      size="small"
      onClick={() => save(text(), 'text/csv', fileName)}
      disabled={rows.length === 0}
    >
      {label}
    </Button>
  );
}

/** The same data as it is read by programs. */
export function JsonButton({ fileName, rows, label }: Data & { label: string }) {
  const text = () => `${JSON.stringify(rows, null, 2)}\n`;
  return (
    <Button
      size="small"
      onClick={() => save(text(), 'application/json', fileName)}
      disabled={rows.length === 0}
    >
      {label}
    </Button>
  );
}

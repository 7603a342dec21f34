'use client';

import Button from '@mui/material/Button';
import Papa from 'papaparse';
import { FORMULA } from '@/core/text/formulae';

/** The data behind a chart or table, as a file. */
export function CsvButton({
  fileName,
  rows,
}: {
  fileName: string;
  rows: Record<string, string | number | null>[];
}) {
  const save = () => {
    const text = `${Papa.unparse(rows, { newline: '\r\n', escapeFormulae: FORMULA })}\r\n`;
    const url = URL.createObjectURL(new Blob([text], { type: 'text/csv' }));
    const link = document.createElement('a');
    link.href = url;
    link.download = fileName;
    link.click();
    URL.revokeObjectURL(url);
  };
  return (
    <Button size="small" onClick={save} disabled={rows.length === 0}>
      Data as CSV
    </Button>
  );
}

import { token } from './tokens';

/** Tables that are edited in place, in the looks of the book. */
export const GRID_LOOK = {
  border: 0,
  borderTop: `1px solid ${token('ink')}`,
  borderRadius: 0,
  fontSize: '0.875rem',
  '--DataGrid-containerBackground': token('sheet'),
  '--DataGrid-rowBorderColor': token('hair'),
  '& .MuiDataGrid-columnHeaderTitle': { fontWeight: 600, color: token('soft') },
  '& .MuiDataGrid-cell--editing': { bgcolor: token('wash') },
} as const;

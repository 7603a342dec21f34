'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TablePagination from '@mui/material/TablePagination';
import TextField from '@mui/material/TextField';
import { useRouter } from 'next/navigation';
import type { FormEvent } from 'react';
import { LIST_PAGE, listAddress, type ListQuery } from '@/platform/list-query';

/** With so few nobody has to search. */
export const FEW = 10;

/** Goes to another search, order or page of a list; a search and an order begin on the first page. */
export function useList<Q extends ListQuery>(path: string, query: Q, usual: Partial<Q>) {
  const router = useRouter();
  return (change: Partial<Q>) =>
    router.push(listAddress(path, { ...query, page: 1, ...change }, usual));
}

export function SearchField({ q, onSearch }: { q: string; onSearch: (q: string) => void }) {
  return (
    <Box
      component="form"
      role="search"
      sx={{ display: 'flex', gap: 1.5, mb: 2 }}
      onSubmit={(event: FormEvent<HTMLFormElement>) => {
        event.preventDefault();
        const wanted = new FormData(event.currentTarget).get('q');
        if (typeof wanted === 'string') onSearch(wanted);
      }}
    >
      <TextField
        key={q}
        name="q"
        type="search"
        label="Search"
        defaultValue={q}
        slotProps={{ htmlInput: { maxLength: 80 } }}
        sx={{ width: 320 }}
      />
      <Button type="submit" variant="outlined">
        Search
      </Button>
    </Box>
  );
}

/** Turns the pages, where there is more than one. */
export function ListPages({
  found,
  page,
  onPage,
}: {
  found: number;
  page: number;
  onPage: (page: number) => void;
}) {
  if (found <= LIST_PAGE) return null;
  return (
    <TablePagination
      component="div"
      count={found}
      page={page - 1}
      rowsPerPage={LIST_PAGE}
      rowsPerPageOptions={[LIST_PAGE]}
      onPageChange={(_, to) => onPage(to + 1)}
    />
  );
}

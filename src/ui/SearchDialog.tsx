'use client';

import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { debounce } from '@mui/material/utils';
import { usePathname, useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { type FoundAnywhere, HOUSE } from '@/platform/endpoints';
import { placesFound } from './places';
import { token } from './tokens';
import { useRead } from './useRead';

const TYPING_MS = 150;
const LONGEST = 200;

type Option = (Omit<FoundAnywhere, 'kind'> & { kind: 'place' }) | FoundAnywhere;

const KINDS: Record<Option['kind'], string> = {
  place: 'Go to',
  comparison: 'Comparisons',
  chain: 'Chains',
  take: 'Takes',
  gear: 'Gear',
  person: 'Panel',
  remark: 'What listeners said',
  decision: 'Decisions',
};

/** Looks through everything of the studio, and goes to what is chosen. */
export function SearchDialog({ onClose }: { onClose: () => void }) {
  const router = useRouter();
  const path = usePathname() ?? '/';
  const [asked, setAsked] = useState('');
  const ask = useMemo(() => debounce(setAsked, TYPING_MS), []);
  const { data, error, isLoading } = useRead(HOUSE.search, asked === '' ? null : {}, {
    query: { q: asked },
    keepPreviousData: true,
    revalidateOnFocus: false,
  });
  const found = asked === '' ? [] : (data?.found ?? []);
  const places = placesFound(asked, path).map((place) => ({ ...place, kind: 'place' as const }));
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="search-title">
      <DialogTitle id="search-title">Search the whole bank</DialogTitle>
      <DialogContent sx={{ minHeight: 420 }}>
        <Autocomplete<Option>
          open
          disablePortal
          options={[...places, ...found]}
          // The server looked already.
          filterOptions={(options) => options}
          groupBy={({ kind }) => KINDS[kind]}
          getOptionLabel={({ text }) => text}
          getOptionKey={({ kind, address, text }) => `${kind} ${address} ${text}`}
          isOptionEqualToValue={(one, other) => one.address === other.address}
          loading={isLoading}
          loadingText="Looking …"
          noOptionsText={error ? error.message : 'Nothing holds all of these words.'}
          forcePopupIcon={false}
          autoHighlight
          onClose={(_, why) => {
            if (why === 'escape') onClose();
          }}
          onInputChange={(_, typed, why) => {
            if (why !== 'selectOption') ask(typed.trim().slice(0, LONGEST));
          }}
          onChange={(_, chosen) => {
            if (!chosen) return;
            onClose();
            router.push(chosen.address);
          }}
          renderGroup={({ key, group, children }) => (
            <Box component="li" role="group" aria-label={group} key={key}>
              <Box aria-hidden sx={{ color: token('soft'), fontSize: '0.875rem', px: 2, pt: 1.5 }}>
                {group}
              </Box>
              <Box component="ul" role="none" sx={{ p: 0, m: 0 }}>
                {children}
              </Box>
            </Box>
          )}
          renderOption={({ key, ...props }, { text, where }) => (
            <Box component="li" key={key} {...props}>
              <Box>
                {text}
                {where && (
                  <Box component="span" sx={{ color: token('soft'), fontSize: '0.875rem', ml: 1 }}>
                    {where}
                  </Box>
                )}
              </Box>
            </Box>
          )}
          renderInput={(parameters) => (
            <TextField
              {...parameters}
              autoFocus
              label="Words, or how they begin"
              helperText="Places to go; comparisons, chains, takes by file name, gear, people, what listeners said once a sitting is closed, decisions."
              sx={{ mt: 1 }}
            />
          )}
        />
      </DialogContent>
    </Dialog>
  );
}

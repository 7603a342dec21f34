'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import Link from '@mui/material/Link';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useColorScheme } from '@mui/material/styles';
import dynamic from 'next/dynamic';
import { usePathname, useRouter } from 'next/navigation';
import { useState } from 'react';
import { NextLink } from './NextLink';
import { forgetKeptPages } from './offline/useKeptPage';
import { request } from './request';
import { useShortcuts } from './useShortcuts';
import { FACES, token } from './tokens';
import { HOUSE } from '@/platform/endpoints';
import type { OnlyPlace } from '@/platform/sign-in/roles';

/** Opened by few, so that pages come without it. */
const SearchDialog = dynamic(() => import('./SearchDialog').then((found) => found.SearchDialog), {
  ssr: false,
});

const PLACES = [
  ['Comparisons', '/'],
  ['Gear', '/gear'],
  ['Panel', '/panel'],
  ['Decisions', '/decisions'],
  ['Training', '/training'],
  ['Bench tools', '/bench'],
  ['People', '/people'],
  ['Copies', '/copies'],
  ['Log', '/log'],
] as const;
/** What stands in the line itself, and what stands for it on a phone. */
const WIDE = { display: { xs: 'none', md: 'flex' } } as const;
const NARROW = { display: { xs: 'flex', md: 'none' } } as const;
/** Of roles that have but one place. */
const ONLY: Record<OnlyPlace, readonly (readonly [string, string])[]> = {
  '/rooms': [['Rooms', '/rooms']],
  '/reports': [['Reports', '/reports']],
};

/** The studio-wide line on top. @param only the one place of somebody who has no other */
export function Masthead({ name, only }: { name: string; only?: OnlyPlace }) {
  const router = useRouter();
  const path = usePathname();
  const { mode, setMode, systemMode } = useColorScheme();
  const dark = (mode === 'system' ? systemMode : mode) === 'dark';
  const light = dark ? 'Daylight' : 'Lamplight';
  const isHere = (href: string) =>
    path === href || (href !== '/' && path?.startsWith(`${href}/`) === true);
  const places = only ? ONLY[only] : PLACES;
  const [opener, setOpener] = useState<HTMLElement | null>(null);
  const fold = () => setOpener(null);
  const [searching, setSearching] = useState(false);
  useShortcuts({
    '/': (event) => {
      if (only) return;
      event.preventDefault();
      setSearching(true);
    },
  });
  const signOut = async () => {
    await request(HOUSE.signOut, {}).catch(() => undefined);
    await forgetKeptPages();
    router.push('/sign-in');
    router.refresh();
  };
  return (
    <Box
      component="header"
      sx={{
        display: 'flex',
        displayPrint: 'none',
        flexWrap: 'nowrap',
        whiteSpace: 'nowrap',
        alignItems: 'baseline',
        columnGap: { xs: 1.5, md: 3 },
        px: { xs: 1.5, md: 3.5 },
        pt: 1.5,
        pb: 1,
      }}
    >
      <Link
        component={NextLink}
        href="/"
        underline="none"
        sx={{ fontFamily: FACES.serif, fontWeight: 700, fontSize: '1.3rem', color: token('ink') }}
      >
        Zeitbank
      </Link>
      <Box component="nav" aria-label="Places" sx={{ ...WIDE, flex: '1 0 auto', gap: 2.5 }}>
        {places.map(([place, href]) => (
          <Link
            key={href}
            component={NextLink}
            href={href}
            aria-current={isHere(href) ? 'page' : undefined}
            sx={{
              color: token('ink'),
              fontSize: '0.9375rem',
              fontWeight: isHere(href) ? 600 : 400,
            }}
          >
            {place}
          </Link>
        ))}
      </Box>
      {!only && (
        <Button
          size="small"
          aria-keyshortcuts="/"
          onClick={() => setSearching(true)}
          sx={{ ...WIDE, color: token('soft'), py: 0 }}
        >
          Search (/)
        </Button>
      )}
      {searching && <SearchDialog onClose={() => setSearching(false)} />}
      <Button
        size="small"
        onClick={() => setMode(dark ? 'light' : 'dark')}
        sx={{ ...WIDE, color: token('soft'), py: 0, visibility: mode ? 'visible' : 'hidden' }}
      >
        {light}
      </Button>
      <Link
        component={NextLink}
        href="/account"
        underline="hover"
        sx={{ ...WIDE, color: token('soft') }}
      >
        {name}
      </Link>
      <Button
        size="small"
        onClick={() => void signOut()}
        sx={{ ...WIDE, color: token('soft'), py: 0 }}
      >
        Sign out
      </Button>
      <Box sx={{ ...NARROW, flex: 1, color: token('soft'), overflow: 'hidden' }}>
        {places.find(([, href]) => href === path)?.[0]}
      </Box>
      <Button
        aria-haspopup="menu"
        aria-expanded={opener !== null}
        onClick={({ currentTarget }) => setOpener(currentTarget)}
        sx={{ ...NARROW, py: 0 }}
      >
        Menu
      </Button>
      <Menu open={opener !== null} anchorEl={opener} onClose={fold}>
        {places.map(([place, href]) => (
          <MenuItem
            key={href}
            component={NextLink}
            href={href}
            selected={isHere(href)}
            onClick={fold}
          >
            {place}
          </MenuItem>
        ))}
        <Divider />
        {!only && (
          <MenuItem
            onClick={() => {
              setSearching(true);
              fold();
            }}
          >
            Search
          </MenuItem>
        )}
        <MenuItem component={NextLink} href="/account" onClick={fold}>
          {name}
        </MenuItem>
        <MenuItem
          onClick={() => {
            setMode(dark ? 'light' : 'dark');
            fold();
          }}
        >
          {light}
        </MenuItem>
        <MenuItem onClick={() => void signOut()}>Sign out</MenuItem>
      </Menu>
    </Box>
  );
}

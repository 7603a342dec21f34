'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import { useColorScheme } from '@mui/material/styles';
import NextLink from 'next/link';
import { usePathname, useRouter } from 'next/navigation';
import { request } from './request';
import { FACES, token } from './tokens';
import { HOUSE } from '@/platform/endpoints';

const PLACES = [
  ['Comparisons', '/'],
  ['Gear', '/gear'],
  ['Panel', '/panel'],
  ['Bench tools', '/bench'],
  ['People', '/people'],
] as const;
const BLIND_PLACES = [['Rooms', '/rooms']] as const;

/** The studio-wide line on top. @param blind for whoever may see no chain */
export function Masthead({ name, blind = false }: { name: string; blind?: boolean }) {
  const router = useRouter();
  const path = usePathname();
  const { mode, setMode, systemMode } = useColorScheme();
  const dark = (mode === 'system' ? systemMode : mode) === 'dark';
  const signOut = async () => {
    await request(HOUSE.signOut, {}).catch(() => undefined);
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
        // On a phone it stays one line, and what does not fit is drawn aside.
        overflowX: { xs: 'auto', md: 'visible' },
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
      <Box
        component="nav"
        aria-label="Places"
        sx={{ flex: '1 0 auto', display: 'flex', gap: { xs: 1.75, md: 2.5 } }}
      >
        {(blind ? BLIND_PLACES : PLACES).map(([place, href]) => (
          <Link
            key={href}
            component={NextLink}
            href={href}
            aria-current={path === href ? 'page' : undefined}
            sx={{
              color: token('ink'),
              fontSize: '0.9375rem',
              fontWeight: path === href ? 600 : 400,
            }}
          >
            {place}
          </Link>
        ))}
      </Box>
      <Button
        size="small"
        onClick={() => setMode(dark ? 'light' : 'dark')}
        sx={{ color: token('soft'), py: 0, visibility: mode ? 'visible' : 'hidden' }}
      >
        {dark ? 'Daylight' : 'Lamplight'}
      </Button>
      <Link component={NextLink} href="/account" underline="hover" sx={{ color: token('soft') }}>
        {name}
      </Link>
      <Button size="small" onClick={() => void signOut()} sx={{ color: token('soft'), py: 0 }}>
        Sign out
      </Button>
    </Box>
  );
}

'use client';

import { createTheme } from '@mui/material/styles';
import { FACES, PAPERS, token } from './tokens';

const paletteOf = (paper: (typeof PAPERS)['light']) => ({
  primary: { main: paper.pen, contrastText: paper.onPen },
  error: { main: paper.red },
  warning: { main: paper.ochre },
  success: { main: paper.green },
  text: { primary: paper.ink, secondary: paper.soft },
  divider: paper.rule,
  background: { default: paper.paper, paper: paper.sheet },
});

const number = { fontFamily: FACES.mono, fontVariantNumeric: 'tabular-nums' };

export const theme = createTheme({
  cssVariables: { colorSchemeSelector: 'data-mui-color-scheme' },
  colorSchemes: {
    light: { palette: paletteOf(PAPERS.light) },
    dark: { palette: paletteOf(PAPERS.dark) },
  },
  shape: { borderRadius: 3 },
  shadows: ['none', ...Array.from({ length: 24 }, () => '0 2px 10px rgba(31,29,24,.14)')] as never,
  typography: {
    fontFamily: FACES.sans,
    fontSize: 14,
    h1: { fontFamily: FACES.serif, fontSize: '1.72rem', fontWeight: 600, lineHeight: 1.25 },
    h2: { fontFamily: FACES.serif, fontSize: '1.18rem', fontWeight: 600, lineHeight: 1.3 },
    h3: { fontSize: '0.875rem', fontWeight: 600 },
    body1: { fontSize: '0.9375rem' },
    body2: { fontSize: '0.875rem' },
    button: { textTransform: 'none', fontWeight: 600 },
  },
  components: {
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiButton: {
      defaultProps: { disableElevation: true },
      styleOverrides: {
        root: {
          borderRadius: 4,
          padding: '7px 16px',
          '&.Mui-focusVisible': { outline: `2px solid ${token('pen')}`, outlineOffset: 2 },
        },
        outlined: { borderColor: token('rule'), backgroundColor: token('card') },
      },
    },
    MuiIconButton: {
      styleOverrides: {
        root: { '&.Mui-focusVisible': { outline: `2px solid ${token('pen')}` } },
      },
    },
    MuiTextField: { defaultProps: { size: 'small', fullWidth: true } },
    MuiOutlinedInput: {
      styleOverrides: {
        root: { backgroundColor: token('card') },
        notchedOutline: { borderColor: token('rule') },
      },
    },
    MuiSelect: { defaultProps: { size: 'small' } },
    MuiTableCell: {
      styleOverrides: {
        root: { borderBottomColor: token('hair'), padding: '9px 8px', fontSize: '0.875rem' },
        head: {
          borderBottom: `1px solid ${token('ink')}`,
          color: token('soft'),
          fontWeight: 600,
          fontSize: '0.8125rem',
          verticalAlign: 'bottom',
        },
        alignRight: {
          ...number,
          whiteSpace: 'nowrap',
          '&.MuiTableCell-head': { fontFamily: FACES.sans, whiteSpace: 'normal' },
        },
      },
    },
    MuiDialog: {
      styleOverrides: { paper: { borderRadius: 4, border: `1px solid ${token('rule')}` } },
    },
    MuiLinearProgress: {
      styleOverrides: {
        root: { height: 4, borderRadius: 2, backgroundColor: token('hair') },
      },
    },
    MuiTooltip: { styleOverrides: { tooltip: { fontSize: '0.8125rem' } } },
    MuiLink: { defaultProps: { underline: 'hover' } },
  },
});

/** Colours of the two papers: by day, and lamp-lit. */
const LIGHT = {
  paper: '#F4F0E6',
  sheet: '#FCFAF4',
  card: '#FFFFFF',
  ink: '#1F1D18',
  soft: '#655F52',
  rule: '#D8D0BE',
  hair: '#E8E2D3',
  tab: '#EAE4D4',
  pen: '#26408B',
  wash: '#E7EAF4',
  onPen: '#FFFFFF',
  red: '#A93C32',
  ochre: '#7A4F00',
  ochreWash: '#FBF0D9',
  green: '#2C6A45',
  wave: '#A09A8C',
};
const DARK: typeof LIGHT = {
  paper: '#24211B',
  sheet: '#2C2922',
  card: '#353128',
  ink: '#F1EADB',
  soft: '#BBB29E',
  rule: '#575041',
  hair: '#423D32',
  tab: '#38342A',
  pen: '#AFC0F5',
  wash: '#3A3F55',
  onPen: '#1B2340',
  red: '#F0998E',
  ochre: '#F0C674',
  ochreWash: '#453A22',
  green: '#93CFAA',
  wave: '#8F8878',
};

export const PAPERS = { light: LIGHT, dark: DARK };
export type TokenName = keyof typeof LIGHT;

/** A token as it is written in styles; it follows the paper that is on. */
export function token(name: TokenName): string {
  return `var(--z-${name})`;
}

const variables = (paper: typeof LIGHT) =>
  Object.entries(paper)
    .map(([name, colour]) => `--z-${name}:${colour}`)
    .join(';');

export const FACES = {
  serif: "'Source Serif 4 Variable', 'Source Serif 4', Georgia, serif",
  sans: "'IBM Plex Sans', 'Helvetica Neue', Arial, sans-serif",
  mono: "'IBM Plex Mono', ui-monospace, monospace",
};

const faces = Object.entries(FACES)
  .map(([name, stack]) => `--z-${name}:${stack}`)
  .join(';');

/** For the engineer's pages, where the paper is chosen; what is printed is always by day. */
export const CHOSEN_PAPER_CSS = `:root{${faces};${variables(LIGHT)}}@media screen{[data-mui-color-scheme="dark"]{${variables(DARK)};color-scheme:dark}}`;
/** For listeners, whose device says which paper. */
export const DEVICE_PAPER_CSS = `:root{${faces};${variables(LIGHT)};color-scheme:light dark}@media (prefers-color-scheme:dark){:root{${variables(DARK)}}}`;

/**
 * Colours of chains after the reveal, told apart with any colour vision (after Okabe & Ito 2008, darkened
 * for paper); each goes with a mark of its own.
 */
export const CHAIN_COLOURS = [
  '#0B5C91',
  '#A8500B',
  '#00715A',
  '#8A3B73',
  '#6B6100',
  '#3D4A9E',
  '#7A4A2B',
  '#4A5560',
];

import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { DecisionChain, DecisionView } from '@/steps/decision/service';
import { money } from '@/ui/format';
import { WideTable } from '@/ui/WideTable';
import { FACES, token } from '@/ui/tokens';
import { placeName, sumText } from './words';

/** So many criteria are told one by one. */
const MOST_TOLD = 4;
const NUMBER = { fontFamily: FACES.mono, whiteSpace: 'nowrap' } as const;

const mark = (points: number) => points.toFixed(1).replace(/\.0$/, '');

function Marks({ chain, view }: { chain: DecisionChain; view: DecisionView }) {
  const { criteria } = view;
  if (chain.score === null) return <>–</>;
  const told = criteria.length <= MOST_TOLD;
  return (
    <>
      <Box component="span" sx={NUMBER}>
        {told
          ? chain.marks.map((own, i) => (
              <span key={criteria[i]!.name} title={own?.item ? `as ${own.item}` : undefined}>
                {i > 0 && ' · '}
                {own ? mark(own.points) : '–'}
                {own?.marks.some(({ afterReveal }) => afterReveal === true) && (
                  <Box component="span" sx={{ color: token('ochre') }}>
                    °
                  </Box>
                )}
                {own?.spread && (
                  <Box component="span" sx={{ color: token('soft') }}>
                    ±
                  </Box>
                )}
              </span>
            ))
          : chain.score.toFixed(1)}
      </Box>
      <Box sx={{ color: token('soft'), fontSize: '0.75rem', whiteSpace: 'nowrap' }}>
        {told && `${chain.score.toFixed(1)} weighed`}
        {chain.coverage < 0.995 && `, ${Math.round(100 * chain.coverage)} % marked`}
      </Box>
      {chain.complaints.map((text) => (
        <Box key={text} sx={{ color: token('red'), fontSize: '0.8125rem' }}>
          {text}
        </Box>
      ))}
    </>
  );
}

/** How high a sum may be, where prices are unsure. */
function UpTo({ cents, over }: { cents: number | undefined; over: number | null }) {
  if (cents === undefined || cents <= (over ?? 0)) return null;
  return (
    <Box sx={{ color: token('soft'), fontSize: '0.75rem', fontFamily: FACES.sans }}>
      up to {money(cents)}
    </Box>
  );
}

function MustHaves({ chain, view }: { chain: DecisionChain; view: DecisionView }) {
  const { mustHaves } = view;
  if (mustHaves.length === 0) return <>–</>;
  const of = (verdict: string) =>
    chain.mustHaves.flatMap((judged, i) =>
      judged.verdict === verdict ? [{ ...judged, text: mustHaves[i]!.text }] : [],
    );
  const [failed, unknown] = [of('fail'), of('unknown')];
  if (failed.length === 0 && unknown.length === 0) {
    return <Box sx={{ color: token('green') }}>all</Box>;
  }
  return (
    <>
      {failed.map(({ text, ground }) => (
        <Box key={text} sx={{ color: token('red') }}>
          out: {text} ({ground})
        </Box>
      ))}
      {unknown.length > 0 && (
        <Box
          title={unknown.map(({ text }) => text).join('; ')}
          sx={{ color: token('soft'), whiteSpace: 'nowrap' }}
        >
          {unknown.length} unknown
        </Box>
      )}
    </>
  );
}

/** Chains with all that speaks for and against them, side by side and never added up. */
export function MatrixTable({ view }: { view: DecisionView }) {
  const { places, chains, criteria, foremost } = view;
  const order = [...chains].sort(
    (x, y) => Number(x.out) - Number(y.out) || (y.sound ?? -1) - (x.sound ?? -1),
  );
  const scattered = chains.some(({ bestShare }) => bestShare !== null);
  const weighed = places.some(({ weight }) => weight !== places[0]!.weight);
  const noise = chains.some(({ facts }) => facts.noiseDba !== null);
  return (
    <WideTable label="Chains side by side">
      <Table
        aria-label="Chains side by side"
        size="small"
        sx={{ '& th, & td': { px: 1 }, '& thead th': { lineHeight: 1.3, verticalAlign: 'bottom' } }}
      >
        <TableHead>
          <TableRow>
            <TableCell>Chain</TableCell>
            {places.map((place) => (
              <TableCell key={place.part} align="right">
                {placeName(place)}
                <Box sx={{ fontWeight: 400, fontSize: '0.8125rem', whiteSpace: 'nowrap' }}>
                  {place.unit === 'share' ? '%' : 'points'}
                  {!place.claimed && ', nothing shown'}
                  {weighed && `, × ${place.weight}`}
                </Box>
              </TableCell>
            ))}
            {scattered && (
              <TableCell align="right">
                Best in …
                <Box sx={{ fontWeight: 400, fontSize: '0.8125rem' }}>
                  of 100 panels{places.length > 1 && `, ${placeName(places[foremost]!)}`}
                </Box>
              </TableCell>
            )}
            {noise && (
              <TableCell align="right">
                Noise
                <Box sx={{ fontWeight: 400, fontSize: '0.8125rem' }}>dBA</Box>
              </TableCell>
            )}
            {criteria.length > 0 && (
              <TableCell>
                {criteria.length <= MOST_TOLD
                  ? criteria.map(({ name }) => name).join(' · ')
                  : 'Marks, 1 to 5'}
              </TableCell>
            )}
            <TableCell>Must-haves</TableCell>
            <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
              To buy
            </TableCell>
            <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
              In all
            </TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {order.map((chain) => (
            <TableRow key={chain.id} sx={chain.out ? { color: token('soft') } : undefined}>
              <TableCell
                component="th"
                scope="row"
                sx={{ fontWeight: 600, color: 'inherit', verticalAlign: 'top', minWidth: 150 }}
              >
                {chain.name}
                {chain.isReference && (
                  <Box sx={{ fontWeight: 400, color: token('soft') }}>reference</Box>
                )}
              </TableCell>
              {chain.heard.map((own, i) => (
                <TableCell
                  key={places[i]!.part}
                  align="right"
                  sx={{
                    ...NUMBER,
                    color: 'inherit',
                    verticalAlign: 'top',
                    fontWeight: own?.leads ? 700 : 400,
                  }}
                >
                  {own?.value == null ? '–' : own.value.toFixed(0)}
                  {own?.value != null && own.from !== null && own.to !== null && (
                    <Box sx={{ color: token('soft'), fontSize: '0.75rem', fontWeight: 400 }}>
                      {own.from.toFixed(0)}–{own.to.toFixed(0)}
                    </Box>
                  )}
                </TableCell>
              ))}
              {scattered && (
                <TableCell align="right" sx={{ ...NUMBER, color: 'inherit', verticalAlign: 'top' }}>
                  {chain.bestShare === null ? '–' : Math.round(100 * chain.bestShare)}
                </TableCell>
              )}
              {noise && (
                <TableCell align="right" sx={{ ...NUMBER, color: 'inherit', verticalAlign: 'top' }}>
                  {chain.facts.noiseDba === null ? '–' : chain.facts.noiseDba.toFixed(1)}
                  {(chain.facts.shortDb ?? 0) > 0 && (
                    <Box sx={{ color: token('red'), fontSize: '0.75rem' }}>
                      {chain.facts.shortDb!.toFixed(0)} dB short
                    </Box>
                  )}
                </TableCell>
              )}
              {criteria.length > 0 && (
                <TableCell sx={{ color: 'inherit', verticalAlign: 'top' }}>
                  <Marks chain={chain} view={view} />
                </TableCell>
              )}
              <TableCell sx={{ verticalAlign: 'top' }}>
                <MustHaves chain={chain} view={view} />
              </TableCell>
              <TableCell align="right" sx={{ ...NUMBER, color: 'inherit', verticalAlign: 'top' }}>
                {sumText(chain.facts.toBuyCents, chain.facts)}
                <UpTo cents={chain.facts.forms?.toBuyMostCents} over={chain.facts.toBuyCents} />
              </TableCell>
              <TableCell align="right" sx={{ ...NUMBER, color: 'inherit', verticalAlign: 'top' }}>
                {sumText(chain.facts.allCents, chain.facts)}
                <UpTo cents={chain.facts.forms?.allMostCents} over={chain.facts.allCents} />
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Box sx={{ color: token('soft'), fontSize: '0.8125rem', mt: 0.5 }}>
        {places.length > 0 && 'Bold: may be the best there, as far as is shown; under it 95 %. '}
        {criteria.length > 0 && '±: people differ. °: given after the reveal.'}
      </Box>
    </WideTable>
  );
}

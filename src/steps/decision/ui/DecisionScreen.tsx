'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { type ReactNode, useMemo, useState } from 'react';
import { onFrontier } from '@/core/statistics/frontier';
import { exploratoryText } from '@/steps/results/exploratory';
import type { DecisionView } from '@/steps/decision/service';
import { FoldedPieces } from '@/steps/results/ui/FoldedPieces';
import { marksOf } from '@/steps/results/ui/marks';
import { useFolds } from '@/steps/results/ui/useFolds';
import { CsvButton, JsonButton } from '@/ui/CsvButton';
import { countWord, date, money } from '@/ui/format';
import { NextLink } from '@/ui/NextLink';
import { Note, PageHeading } from '@/ui/Sheet';
import { token } from '@/ui/tokens';
import { CostForms } from './CostForms';
import { DecisionDialog } from './DecisionDialog';
import { DecisionRecord } from './DecisionRecord';
import { MatrixTable } from './MatrixTable';
import { Measured } from './Measured';
import { MustHavesPanel } from './MustHavesPanel';
import type { PricedChain } from './ValueChart';
import { WhatIf } from './WhatIf';
import { equalCostText, linkText, placeName, regretText, stepText, tonedText } from './words';

const ValueChart = dynamic(() => import('./ValueChart'), {
  ssr: false,
  loading: () => <Box sx={{ height: 300 }} />,
});
const MarksGrid = dynamic(() => import('./MarksGrid').then((loaded) => loaded.MarksGrid), {
  ssr: false,
});

function Piece({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box sx={{ mb: 1.75 }}>
      <Typography variant="h2" sx={{ fontSize: '1.0625rem' }}>
        {title}
      </Typography>
      <Box sx={{ fontSize: '0.875rem', maxWidth: '60ch' }}>{children}</Box>
    </Box>
  );
}

function pricedOf({ chains }: DecisionView, at: number): PricedChain[] {
  const all = chains.flatMap((chain) => {
    const own = chain.heard[at];
    const { allCents, unpriced } = chain.facts;
    if (!own || own.value === null || allCents === null || unpriced.length > 0) return [];
    const { name, sealed, out } = chain;
    const { value, from, to } = own;
    return [{ name, sealed: sealed ?? name, price: allCents, value, from, to, out }];
  });
  const left = all.filter(({ out }) => !out);
  const line = onFrontier(left.map(({ price, value }) => ({ price, strength: value })));
  return all.map((one) => ({ ...one, onFrontier: !one.out && line[left.indexOf(one)]! }));
}

/** What prices and scatter say of the choice, in the place that counts most. */
function Evidence({ view }: { view: DecisionView }) {
  const leads = view.chains.some(({ heard }) => heard[view.foremost]?.leads);
  const { comparison, regret, steps, links, equalCost, toned, joint, levelError } = view;
  return (
    <Box>
      {regret && <Piece title={`If you take ${regret.chain}`}>{regretText(view)}</Piece>}
      {steps.map((step) => (
        <Piece key={step.to} title={`${money(step.moreCents)} more`}>
          {stepText(step)}
        </Piece>
      ))}
      {links.map((link) => (
        <Piece key={link.link} title={`100 € more at the ${link.link}`}>
          {linkText(link)}
        </Piece>
      ))}
      {equalCost.length > 0 && (
        <Piece title="At the same price, over all places">
          {equalCost.map((pair) => (
            <Box key={`${pair.a} ${pair.b}`}>{equalCostText(pair)}</Box>
          ))}
        </Piece>
      )}
      {toned.map((one) => (
        <Piece key={`${one.plain} ${one.target}`} title="How much of it is EQ">
          {tonedText(one)}
        </Piece>
      ))}
      {joint && (
        <Piece title="Sittings read together">
          {joint.says.join(' ')}{' '}
          <Link
            component={NextLink}
            underline="always"
            href={`/comparisons/${comparison.id}/together?reading=${joint.id}`}
          >
            {joint.sittings.join(' and ')}, set against {joint.reference}
          </Link>
        </Piece>
      )}
      {leads && !levelError && (
        <Piece title="If the match had been off">
          by how much it would have to be off to explain the lead is not known. That takes pairs in
          which nobody always wins, and a clip set against itself 1 dB louder that was then chosen
          more often.
        </Piece>
      )}
      {levelError && (
        <Piece title="If the match had been off">
          it would have to favour {levelError.chain} by {levelError.db.toFixed(1)} dB to explain its
          lead over {levelError.over}, by how much this panel followed the louder of two that were
          the same. Each clip was checked to lie within 0.05 LU of where it shall be.
        </Piece>
      )}
    </Box>
  );
}

function csvOf({ chains, places, criteria, mustHaves }: DecisionView) {
  return chains.map((chain) => ({
    chain: chain.name,
    ...Object.fromEntries(
      places.flatMap((place, i) => {
        const name = `${placeName(place)}, ${place.unit}`;
        const own = chain.heard[i];
        return [
          [name, own?.value ?? null],
          [`${name}, from`, own?.from ?? null],
          [`${name}, to`, own?.to ?? null],
        ];
      }),
    ),
    'best share of panels': chain.bestShare,
    'noise, dBA': chain.facts.noiseDba,
    ...Object.fromEntries(
      criteria.map(({ name }, i) => [`mark: ${name}`, chain.marks[i]?.points ?? null]),
    ),
    'marks, weighed': chain.score,
    'share of weight marked': chain.coverage,
    ...Object.fromEntries(
      mustHaves.map(({ text }, i) => [`must: ${text}`, chain.mustHaves[i]!.verdict]),
    ),
    'to buy, cents': chain.facts.toBuyCents,
    'to buy at most, cents': chain.facts.forms?.toBuyMostCents ?? null,
    'to buy used from, cents': chain.facts.forms?.used?.fromCents ?? null,
    'to buy used to, cents': chain.facts.forms?.used?.toCents ?? null,
    'rented a day, cents': chain.facts.forms?.rentDay?.cents ?? null,
    'in all, cents': chain.facts.allCents,
    'owned, cents': chain.facts.forms?.ownedCents ?? null,
    'lent, cents': chain.facts.forms?.lentCents ?? null,
    'without a price': chain.facts.unpriced.join(', '),
  }));
}

function Folds({ view }: { view: DecisionView }) {
  const folds = useFolds();
  const { criteria, mustHaves, locked } = view;
  const given = view.markCounts.given;
  const files = `/api/comparisons/${view.comparison.id}/decision`;
  const pieces: { id: string; title: string; body: () => ReactNode }[] = [
    {
      id: 'marks',
      title: criteria.length === 0 ? 'Marks' : `Marks (${given === 0 ? 'none yet' : given})`,
      body: () => <MarksGrid view={view} />,
    },
    {
      id: 'must-haves',
      title: `Must-haves (${mustHaves.length === 0 ? 'none' : mustHaves.length})`,
      body: () => <MustHavesPanel view={view} />,
    },
    { id: 'measured', title: 'Measured', body: () => <Measured view={view} /> },
    { id: 'cost', title: 'Cost in every form', body: () => <CostForms view={view} /> },
    { id: 'what-if', title: 'What if the weights were others', body: () => <WhatIf view={view} /> },
    ...(locked.length > 1
      ? [
          {
            id: 'versions',
            title: countWord(locked.length - 1, 'older version'),
            body: () =>
              locked
                .slice(1)
                .map((version) => (
                  <DecisionRecord
                    key={version.record.version}
                    comparisonId={view.comparison.id}
                    version={version}
                  />
                )),
          },
        ]
      : []),
    {
      id: 'files',
      title: 'Files',
      body: () => (
        <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
          <CsvButton fileName="decision.csv" rows={csvOf(view)} label="Matrix, CSV" />
          <JsonButton fileName="decision.json" rows={csvOf(view)} label="Matrix, JSON" />
          <Link href={`${files}/marks.csv`}>Every mark, CSV</Link>
          <Link href={`${files}/marks.json`}>Every mark, JSON</Link>
          {locked.length > 0 && (
            <>
              <Link href={`${files}/decisions.csv`}>All versions, CSV</Link>
              <Link href={`${files}/decisions.json`}>All versions as they were locked, JSON</Link>
            </>
          )}
        </Box>
      ),
    },
  ];
  return <FoldedPieces pieces={pieces} folds={folds} />;
}

/** Blind and practical evidence side by side, and the decision that is made of them. */
export function DecisionScreen({ view, name }: { view: DecisionView; name: string }) {
  const [writing, setWriting] = useState(false);
  const { comparison, sitting, chains, sealed, locked, places, reading, foremost: at } = view;
  const priced = useMemo(() => pricedOf(view, at), [view, at]);
  const markOf = useMemo(() => marksOf(sealed), [sealed]);
  const [newest] = locked;
  const place = places[at];
  return (
    <>
      <PageHeading
        finding={view.finding}
        aside={
          !sitting
            ? 'What follows was seen, not heard. Close a sitting, and what the panel heard stands beside it.'
            : undefined
        }
        action={
          <>
            {sitting && !reading && (
              <Button
                component={NextLink}
                variant="outlined"
                href={`/comparisons/${comparison.id}/report?sitting=${sitting.sittingId}`}
              >
                Report
              </Button>
            )}
            {chains.length > 0 && (
              <Button variant="contained" disabled={reading} onClick={() => setWriting(true)}>
                {newest ? 'Write a new version' : 'Write the decision'}
              </Button>
            )}
          </>
        }
      />
      {sitting && !sitting.sealHolds && (
        <Note kind="problem">
          The key of this sitting does not give the number that listeners were shown. Do not trust
          what was heard.
        </Note>
      )}
      {sitting?.exploratory && <Note kind="caution">{exploratoryText(sitting.exploratory)}</Note>}
      {sitting?.sealBroken && (
        <Note kind="caution">
          The seal was broken before closing, {date(sitting.sealBroken.at)}: “
          {sitting.sealBroken.reason}”.
        </Note>
      )}
      {reading && (
        <Note kind="plain">The answers are being read; what was heard appears by itself.</Note>
      )}
      {newest && (
        <Box
          component="section"
          aria-label="Decided"
          sx={{
            borderTop: `1px solid ${token('ink')}`,
            borderBottom: `1px solid ${token('rule')}`,
            py: 1,
            mb: 1.5,
          }}
        >
          <Typography variant="h2">Decided</Typography>
          <DecisionRecord comparisonId={comparison.id} version={newest} />
        </Box>
      )}
      {chains.length === 0 ? (
        <Typography>
          Name the chains first; then prices, marks and must-haves stand here side by side.{' '}
          <Link
            underline="always"
            component={NextLink}
            href={`/comparisons/${comparison.id}/chains`}
          >
            Go to the chains
          </Link>
        </Typography>
      ) : (
        <>
          <MatrixTable view={view} />
          <Box
            sx={{
              display: 'grid',
              gridTemplateColumns: { md: priced.length > 1 ? '1.25fr 1fr' : '1fr' },
              gap: 3,
              mt: 2,
            }}
          >
            {place && priced.length > 1 && (
              <Box component="figure" sx={{ m: 0, minWidth: 0 }}>
                <ValueChart chains={priced} unit={place.unit} place={place.place} markOf={markOf} />
                <Typography
                  component="figcaption"
                  sx={{ color: token('soft'), fontSize: '0.875rem', mt: 0.5 }}
                >
                  Filled and on the line: of those left, nothing that costs no more was liked as
                  well{place.place && ` (${place.place})`}. 95 % intervals over listeners.
                </Typography>
              </Box>
            )}
            <Evidence view={view} />
          </Box>
          <Folds view={view} />
        </>
      )}
      {writing && <DecisionDialog view={view} name={name} onClose={() => setWriting(false)} />}
    </>
  );
}

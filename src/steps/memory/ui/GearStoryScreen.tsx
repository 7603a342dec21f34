'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import { Uses } from '@/steps/decision/ui/DecidedScreen';
import { specLine } from '@/steps/gear/ui/spec-line';
import type { GearStory } from '@/steps/memory/service';
import { placedText } from '@/steps/results/ui/placed-text';
import { DataTable } from '@/ui/DataTable';
import { countWord, date, money, signed } from '@/ui/format';
import { ListPages } from '@/ui/lists';
import { NextLink } from '@/ui/NextLink';
import { MarginNote, Note, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';
import { token } from '@/ui/tokens';
import {
  caveats,
  driftText,
  outcomeWords,
  placeWords,
  repeatsText,
  storyFinding,
} from './place-words';

const soft = { color: token('soft'), fontSize: '0.8125rem' } as const;

function Piece({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="section" sx={{ mt: 3 }}>
      <Typography variant="h2" sx={{ mb: 0.75 }}>
        {title}
      </Typography>
      {children}
    </Box>
  );
}

function Standings({ story }: { story: GearStory }) {
  const router = useRouter();
  const { standings, places, page, gear } = story;
  if (places === 0) {
    return (
      <Typography sx={{ maxWidth: '68ch' }}>
        When a sitting is closed in which a chain with it was liked or not, what the panel said
        stands here.
      </Typography>
    );
  }
  return (
    <>
      <DataTable
        label="Where its chains were heard"
        wide
        rows={standings}
        keyOf={({ sittingId, part, chainId }) => `${sittingId} ${part} ${chainId}`}
        columns={[
          {
            label: 'Where',
            names: true,
            sx: { minWidth: 170 },
            cell: (row) => (
              <>
                <Link
                  component={NextLink}
                  href={`/comparisons/${row.comparisonId}/results?sitting=${row.sittingId}`}
                >
                  {placeWords(row)}
                </Link>
                <Box sx={soft}>
                  {row.title}, {date(row.closedAt)}
                  {caveats(row)}
                </Box>
              </>
            ),
          },
          { label: 'Chain', sx: { whiteSpace: 'nowrap' }, cell: ({ chain }) => chain },
          { label: 'Came out', cell: outcomeWords },
          {
            label: 'Liked',
            sx: { whiteSpace: 'nowrap' },
            cell: ({ value, low, high, unit }) => placedText({ value, from: low, to: high }, unit),
          },
          { label: 'Listeners', right: true, cell: ({ listeners }) => listeners },
        ]}
      />
      <ListPages
        found={places}
        page={page}
        onPage={(next) => router.push(`/gear/${gear.id}?page=${next}`)}
      />
    </>
  );
}

function Marks({ marks }: Pick<GearStory, 'marks'>) {
  return marks.map(({ criterion, by, value, remark, at }) => (
    <Typography key={`${criterion} ${by}`} sx={{ mt: 0.25 }}>
      <b>{criterion}</b>: {value}
      {remark && `, “${remark}”`}{' '}
      <Box component="span" sx={soft}>
        {by}, {date(at)}
      </Box>
    </Typography>
  ));
}

/** All that the studio knows of one item, of its own doing. */
export function GearStoryScreen({ name, story }: { name: string; story: GearStory }) {
  const {
    gear,
    places,
    simulated,
    outcomes,
    words,
    marks,
    gains,
    drifts,
    noises,
    holders,
    decisions,
  } = story;
  const known = specLine(gear);
  return (
    <StudioFrame
      name={name}
      margin={
        <>
          <MarginNote title="What this is">
            What this studio heard of it blind, marked with open eyes and set at the stand. No panel
            hears an item alone: what won or fell behind is the chain that holds it.
          </MarginNote>
          <MarginNote title="Of each alone">
            Figures are of one panel on one source. They are not to be set against those of another
            comparison, which had other listeners or other takes.
          </MarginNote>
          <MarginNote title="Two minutes a year">
            Record the test sound twice through a chain, same place and loudspeaker, and a resistor
            with its gain logged; from the second year on this page tells which band, or the noise,
            moved by more than it repeats to.
          </MarginNote>
          {simulated > 0 && (
            <MarginNote title="Simulated">
              {simulated === places
                ? 'All of these listeners are simulated; nobody heard anything.'
                : `${simulated} of ${places} places are of simulated listeners.`}
            </MarginNote>
          )}
        </>
      }
    >
      <PageHeading
        finding={storyFinding(gear.name, places, outcomes)}
        aside={[gear.kind, gear.maker, gear.ownership, money(gear.priceCents), known]
          .filter((part) => part !== '')
          .join(' · ')}
        action={
          <Link component={NextLink} href={`/gear?q=${encodeURIComponent(gear.name)}`}>
            In the gear list
          </Link>
        }
      />
      {gear.deleted && (
        <Note kind="plain">It is removed from the gear list; what was heard of it stays.</Note>
      )}
      <Standings story={story} />
      {words.length > 0 && (
        <Piece title="Words that were ticked for its chains">
          <Typography>
            {words.map(({ word, count, of, differs }, i) => (
              <span key={word}>
                {i > 0 && ', '}
                {differs > 0 ? <b>{word}</b> : word} {count} of {of}
              </span>
            ))}
          </Typography>
          <Box sx={soft}>
            Ticks of all listeners over all its chains. In bold: words in which the chains of a
            sitting differed (Cochran, Holm).
          </Box>
        </Piece>
      )}
      {marks.length > 0 && (
        <Piece title="Marks with open eyes">
          <Marks marks={marks} />
        </Piece>
      )}
      {gains.length > 0 && (
        <Piece title="Gain that was set at the stand">
          {gains.map(({ source, lines, least, median, most }) => (
            <Typography key={source}>
              <b>{source}</b>: {median.toFixed(0)} dB
              {most > least && `, from ${least.toFixed(0)} to ${most.toFixed(0)} dB`}{' '}
              <Box component="span" sx={soft}>
                {countWord(lines, 'take')}
              </Box>
            </Typography>
          ))}
        </Piece>
      )}
      {drifts.length > 0 && (
        <Piece title="Test sound over the years">
          {drifts.map((drift) => (
            <Box key={drift.chain} sx={{ mb: 1 }}>
              <b>{drift.chain}</b>{' '}
              <Box component="span" sx={soft}>
                first on {date(drift.first)}; {repeatsText(drift)}
              </Box>
              {drift.days.map((day) => (
                <Box key={day.on} sx={day.moved.length > 0 ? { color: token('red') } : undefined}>
                  {date(day.on)}: {driftText(day)}
                </Box>
              ))}
            </Box>
          ))}
          <Box sx={soft}>
            Level left out: it follows gain and loudspeaker. What moved may be the gear, its place
            or the loudspeaker; record it again before you send anything to be repaired.
          </Box>
        </Piece>
      )}
      {noises.length > 0 && (
        <Piece title="Its own noise over the years">
          {noises.map((drift) => (
            <Box key={drift.chain} sx={{ mb: 1 }}>
              <b>{drift.chain}</b>{' '}
              <Box component="span" sx={soft}>
                first on {date(drift.first)}; told from {drift.repeatsDb.toFixed(1)} dB on
              </Box>
              {drift.days.map(({ on, byDb, moved }) => (
                <Box key={on} sx={moved ? { color: token('red') } : undefined}>
                  {date(on)}: {moved ? 'moved, ' : 'as it was, '}
                  {signed(byDb, 1, 'dB')}
                </Box>
              ))}
            </Box>
          ))}
          <Box sx={soft}>
            A resistor in place of the microphone, A-weighted, less the gain that was logged.
          </Box>
        </Piece>
      )}
      {decisions.length > 0 && (
        <Piece title="Decided">
          {decisions.map((line) => (
            <Box key={line.comparisonId} sx={{ mb: 1 }}>
              <Link
                component={NextLink}
                underline="always"
                href={`/comparisons/${line.comparisonId}/decision`}
              >
                {line.title}
              </Link>{' '}
              <Box component="span" sx={soft}>
                {date(line.at)}
                {line.simulated && ', simulated listeners'}
              </Box>
              <Uses uses={line.uses} />
            </Box>
          ))}
        </Piece>
      )}
      <Piece title="Chains with it">
        {holders.all === 0 && <Typography>No chain holds it.</Typography>}
        {holders.rows.map(({ chainId, chain, comparisonId, title }) => (
          <Typography key={chainId}>
            <Link
              component={NextLink}
              underline="always"
              href={`/comparisons/${comparisonId}/chains`}
            >
              {chain}
            </Link>{' '}
            <Box component="span" sx={soft}>
              {title}
            </Box>
          </Typography>
        ))}
        {holders.all > holders.rows.length && (
          <Box sx={soft}>and {holders.all - holders.rows.length} more in older comparisons</Box>
        )}
      </Piece>
    </StudioFrame>
  );
}

import { type Drift, driftOf, type NoiseDrift, noiseDrift } from '@/core/memory/drift';
import { type Outcome, outcomeOf, OUTCOMES } from '@/core/memory/outcome';
import { recordedAt } from '@/core/checks/recorded';
import { chainCost } from '@/core/chain/cost';
import {
  type RememberedChain,
  type ShortestBench,
  shortestBench,
} from '@/core/memory/shortest-bench';
import { db } from '@/platform/database';
import { notFound } from '@/platform/errors';
import { grouped } from '@/platform/grouped';
import { pageWithin } from '@/platform/list-query';
import { searchQuery } from '@/platform/search-words';
import type { SignedIn } from '@/platform/sign-in/service';
import { type DecidedLine, decidedWith } from '@/steps/decision/service';
import { listMarks } from '@/steps/decision/store';
import { type Gear, gearItem } from '@/steps/gear/schema';
import { allGearOf, gearItemOf } from '@/steps/gear/service';
import { contextOf } from '@/steps/results/service';
import type { HeardQuery } from './schema';
import {
  countAlike,
  countHeard,
  countStandingsWith,
  type GainRow,
  gainsWith,
  type HeardRow,
  type HolderRow,
  holdersOf,
  listHeard,
  rememberedChains,
  resistorsWith,
  type StandingRow,
  standingsWith,
  type TestSoundRow,
  testSoundsWith,
  thirdsOf,
  type TickedRow,
  wordsWith,
} from './store';

const MOST_WORDS = 10;
const MOST_HOLDERS = 40;
const MOST_SOURCES = 12;
/** Test sounds that are looked at: thirty years of two a year, through seven chains. */
const MOST_TEST_SOUNDS = 420;

/** What somebody marked an item with. */
export interface ItemMark {
  criterion: string;
  by: string;
  value: string;
  remark: string;
  at: Date;
}

/** All that the studio knows of one item by having heard, recorded and used it. */
export interface GearStory {
  gear: Gear & { deleted: boolean };
  /** How often chains with it came out in each way; places of simulated listeners are counted among them. */
  outcomes: { outcome: Outcome; times: number }[];
  places: number;
  simulated: number;
  standings: (StandingRow & { outcome: Outcome })[];
  page: number;
  words: TickedRow[];
  marks: ItemMark[];
  gains: GainRow[];
  /** Of each chain with it whose test sound was recorded on several days, how it moved; of a resistor likewise. */
  drifts: (Drift & { chain: string })[];
  noises: (NoiseDrift & { chain: string })[];
  holders: { rows: HolderRow[]; all: number };
  decisions: DecidedLine[];
}

/** Day of a recording, by its file, else by when it came. */
function dayOf({ written, arrived }: Pick<TestSoundRow, 'written' | 'arrived'>): string {
  const said = written === null ? null : recordedAt({ originationDate: written }, 1);
  return said ?? arrived.toISOString().slice(0, 10);
}

async function driftsWith(accountId: string, gearId: string): Promise<GearStory['drifts']> {
  const sounds = grouped(await testSoundsWith(db(), accountId, gearId, MOST_TEST_SOUNDS));
  return [...sounds.values()].flatMap((own) => {
    const drift = driftOf(own.map((row) => ({ on: dayOf(row), thirdsDb: row.thirdsDb })));
    return drift ? [{ ...drift, chain: own[0]!.chain }] : [];
  });
}

async function noisesWith(accountId: string, gearId: string): Promise<GearStory['noises']> {
  const rows = grouped(await resistorsWith(db(), accountId, gearId, MOST_TEST_SOUNDS));
  return [...rows.values()].flatMap((own) => {
    const drift = noiseDrift(
      own.map((row) => ({ on: dayOf(row), atInputDb: row.aWeightedDbfs - row.gainDb })),
    );
    return drift ? [{ ...drift, chain: own[0]!.chain }] : [];
  });
}

/** @param wanted page of the places in which it was heard */
export async function gearStory(
  engineer: SignedIn,
  gearId: string,
  wanted: number,
): Promise<GearStory> {
  const gear = await gearItemOf(engineer, gearId);
  if (!gear) throw notFound('gear item');
  const { accountId } = engineer;
  const counted = await countStandingsWith(db(), accountId, gearId);
  const sum = (rows: typeof counted) => rows.reduce((all, { times }) => all + times, 0);
  const places = sum(counted);
  const page = pageWithin(wanted, places);
  const standings = await standingsWith(db(), accountId, gearId, page);
  const marks = await listMarks(db(), [], [gearId]);
  return {
    gear,
    outcomes: OUTCOMES.map((outcome) => ({
      outcome,
      times: sum(counted.filter((row) => outcomeOf(row) === outcome)),
    })),
    places,
    simulated: sum(counted.filter((row) => row.simulated)),
    standings: standings.map((row) => ({
      ...row,
      context: contextOf(row),
      outcome: outcomeOf(row),
    })),
    page,
    words: await wordsWith(db(), accountId, gearId, MOST_WORDS),
    marks: marks.flatMap(({ criterion, by, value, remark, at }) =>
      value === null ? [] : [{ criterion, by, value, remark, at }],
    ),
    gains: await gainsWith(db(), accountId, gearId, MOST_SOURCES),
    drifts: await driftsWith(accountId, gearId),
    noises: await noisesWith(accountId, gearId),
    holders: await holdersOf(db(), accountId, gearId, MOST_HOLDERS),
    decisions: await decidedWith(engineer, gearId),
  };
}

export interface HeardList {
  query: HeardQuery;
  lines: HeardRow[];
  found: number;
  all: number;
}

/** A page of what panels liked, over all comparisons. Two queries, whatever its size. */
export async function heardList({ accountId }: SignedIn, query: HeardQuery): Promise<HeardList> {
  const counts = await countHeard(db(), accountId, query.q);
  const page = pageWithin(query.page, counts.found);
  const shown = { ...query, page };
  const rows = await listHeard(db(), accountId, shown);
  const lines = rows.map((row) => ({ ...row, context: contextOf(row) }));
  return { query: shown, lines, ...counts };
}

const MOST_SPECTRA = 400;

/** What to record for a voice or instrument, of all that the studio ever put together. */
export interface BenchProposal extends ShortestBench {
  q: string;
  /** Places like it that were heard. */
  places: number;
  /** Whether any place that it rests on, like it or not, was heard by simulated listeners. */
  simulated: boolean;
}

/** @returns null where nothing was asked */
export async function proposeBench(engineer: SignedIn, q: string): Promise<BenchProposal | null> {
  const { accountId } = engineer;
  const query = searchQuery(q);
  if (query === '') return null;
  const rows = await rememberedChains(db(), accountId, query);
  const gear = new Map((await allGearOf(engineer)).map((item) => [item.id, gearItem(item)]));
  const thirds = await thirdsOf(
    db(),
    rows.flatMap(({ chainIds }) => chainIds),
    MOST_SPECTRA,
  );
  const all = rows.map(({ gearIds, pair, name, chainIds, alike, elsewhere }): RememberedChain => {
    const { totalCents, unpriced } = chainCost(gearIds, gear, pair ? (gearIds[0] ?? null) : null);
    const own = thirds.filter(({ chainId }) => chainIds.includes(chainId));
    return {
      key: `${gearIds.join(' ')}${pair ? ' pair' : ''}`,
      name,
      priceCents: unpriced.length > 0 ? null : totalCents,
      alike,
      elsewhere,
      spectra: new Map(own.map(({ setId, levelsDb }) => [setId, levelsDb])),
    };
  });
  return {
    q,
    ...shortestBench(all),
    places: await countAlike(db(), accountId, query),
    simulated: rows.some(({ simulated }) => simulated > 0),
  };
}

import { type Outcome, outcomeOf, OUTCOMES } from '@/core/memory/outcome';
import { db } from '@/platform/database';
import { notFound } from '@/platform/errors';
import { pageWithin } from '@/platform/list-query';
import type { SignedIn } from '@/platform/sign-in/service';
import { type DecidedLine, decidedWith } from '@/steps/decision/service';
import { listMarks } from '@/steps/decision/store';
import type { Gear } from '@/steps/gear/schema';
import { gearItemOf } from '@/steps/gear/service';
import { contextOf } from '@/steps/results/service';
import type { HeardQuery } from './schema';
import {
  countHeard,
  countStandingsWith,
  type GainRow,
  gainsWith,
  type HeardRow,
  type HolderRow,
  holdersOf,
  listHeard,
  type StandingRow,
  standingsWith,
  type TickedRow,
  wordsWith,
} from './store';

const MOST_WORDS = 10;
const MOST_HOLDERS = 40;
const MOST_SOURCES = 12;

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
  holders: { rows: HolderRow[]; all: number };
  decisions: DecidedLine[];
}

/** @param wanted page of the places in which it was heard */
export async function gearStory(
  engineer: SignedIn,
  gearId: string,
  wanted: number,
): Promise<GearStory> {
  const gear = await gearItemOf(engineer, gearId);
  if (!gear) throw notFound('gear item');
  const { studioId } = engineer;
  const counted = await countStandingsWith(db(), studioId, gearId);
  const sum = (rows: typeof counted) => rows.reduce((all, { times }) => all + times, 0);
  const places = sum(counted);
  const page = pageWithin(wanted, places);
  const standings = await standingsWith(db(), studioId, gearId, page);
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
    words: await wordsWith(db(), studioId, gearId, MOST_WORDS),
    marks: marks.flatMap(({ criterion, by, value, remark, at }) =>
      value === null ? [] : [{ criterion, by, value, remark, at }],
    ),
    gains: await gainsWith(db(), studioId, gearId, MOST_SOURCES),
    holders: await holdersOf(db(), studioId, gearId, MOST_HOLDERS),
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
export async function heardList({ studioId }: SignedIn, query: HeardQuery): Promise<HeardList> {
  const counts = await countHeard(db(), studioId, query.q);
  const page = pageWithin(query.page, counts.found);
  const shown = { ...query, page };
  const rows = await listHeard(db(), studioId, shown);
  const lines = rows.map((row) => ({ ...row, context: contextOf(row) }));
  return { query: shown, lines, ...counts };
}
